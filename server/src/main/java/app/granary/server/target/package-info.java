/** Disks that can be overwritten, and drives that are made ready. */
package app.granary.server.target;
