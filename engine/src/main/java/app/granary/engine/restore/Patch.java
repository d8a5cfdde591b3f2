package app.granary.engine.restore;

/**
 * Bytes of a target that are not the image's: its table, and what boot sectors say of where they lie.
 *
 * @param offsetBytes where on the target
 */
record Patch(long offsetBytes, byte[] content) {
    long endBytes() {
        return offsetBytes + content.length;
    }
}
