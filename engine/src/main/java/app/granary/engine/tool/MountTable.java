package app.granary.engine.tool;

/** How the system writes the tables of what is mounted: one line for each, words with single spaces between (fstab(5), proc(5)). */
public final class MountTable {
    private MountTable() {
    }

    /** A word as it is: blanks, tabs, line ends and backslashes stand in the table as octal figures. */
    public static String plain(String written) {
        return written.replace("\\040", " ").replace("\\011", "\t").replace("\\012", "\n").replace("\\134", "\\");
    }
}
