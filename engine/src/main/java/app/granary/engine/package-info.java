/** Moves bytes: reads disks, captures, verifies, restores. Depends on core only. Nothing is null. */
package app.granary.engine;
