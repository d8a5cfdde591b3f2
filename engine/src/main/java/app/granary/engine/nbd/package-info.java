/** A disk, or an image as a disk, for programs that read by the open Network Block Device protocol. */
package app.granary.engine.nbd;
