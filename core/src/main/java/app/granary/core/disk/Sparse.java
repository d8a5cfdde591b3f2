package app.granary.core.disk;

/** A source of which it is known, without reading it, where long stretches hold nothing but zeros. */
public interface Sparse {
    /**
     * @param zeros    whether all of it is zeros; otherwise it may be anything
     * @param endBytes where it ends, more than where it was asked for
     */
    record Stretch(boolean zeros, long endBytes) {
    }

    /** @param atBytes 0 or more, less than the source's length */
    Stretch stretch(long atBytes);
}
