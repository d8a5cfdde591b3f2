/** Repair of damaged copies from ones that are not. */
package app.granary.server.repair;
