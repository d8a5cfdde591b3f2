package app.granary.core.restore;

/** Which images Granary itself can write back onto a disk. */
public final class Restorable {
    private Restorable() {
    }

    /**
     * @param granarys whether it is in Granary's own format: files of other tools are restored with those
     * @param kept     whether it lies on the shelf: one in the trash is taken back first
     */
    public static boolean is(boolean granarys, boolean kept) {
        return granarys && kept;
    }
}
