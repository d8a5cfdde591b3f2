/** Disks that are overwritten, and everything that must hold before one is. Pure; nothing is null. */
package app.granary.core.target;
