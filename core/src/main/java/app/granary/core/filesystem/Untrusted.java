package app.granary.core.filesystem;

/** Leaves a reader as soon as the file system contradicts itself; the message is the reason the partition is read whole. */
final class Untrusted extends Exception {
    private static final long serialVersionUID = 1L;

    Untrusted(String reason) {
        super(reason, null, false, false);
    }

    static void unless(boolean holds, String reason) throws Untrusted {
        if (!holds) {
            throw new Untrusted(reason);
        }
    }
}
