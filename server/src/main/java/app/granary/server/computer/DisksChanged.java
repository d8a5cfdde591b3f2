package app.granary.server.computer;

/** Disks may have come or gone; whoever was told so need not wait for the next look. */
public record DisksChanged() {
}
