/** Restores for practice, started in a machine made of software. */
package app.granary.server.rehearsal;
