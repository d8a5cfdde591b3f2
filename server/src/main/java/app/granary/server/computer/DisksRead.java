package app.granary.server.computer;

/** All disks at hand have been read, and are on record. */
public record DisksRead() {
}
