package app.granary.core.restore;

import app.granary.core.image.Lacks;

/** Which images Granary itself can write back onto a disk. */
public final class Restorable {
    private Restorable() {
    }

    /**
     * @param seen  whether its files are known, as those of a line of a paper log are not
     * @param lacks what of its disk it does not hold: a partition alone is no disk, and a file nobody can look into cannot be written
     * @param kept  whether it lies on the shelf: one in the trash is taken back first
     */
    public static boolean is(boolean seen, Lacks lacks, boolean kept) {
        return seen && kept && lacks.countsForDisk();
    }
}
