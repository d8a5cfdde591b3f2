/** Writes an image back onto a file or a disk. Start with {@link app.granary.engine.restore.Restore}. */
package app.granary.engine.restore;
