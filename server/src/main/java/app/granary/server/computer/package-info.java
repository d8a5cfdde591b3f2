/** Computers and disks at hand. */
package app.granary.server.computer;
