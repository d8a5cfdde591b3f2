/** Folders and files of a disk, or of an image of one, without restoring it. */
package app.granary.engine.files;
