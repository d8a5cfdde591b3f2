package app.granary.core.filesystem;

import java.time.Instant;

/**
 * A name in a folder, and what it stands for.
 *
 * @param bytes      length of a file; 0 for everything else
 * @param modifiedAt as the file system has it; where that keeps no zone (FAT), its clock taken for UTC
 * @param unreadable why its content cannot be read; an empty string when it can
 * @param id         by which the file system knows it
 */
public record FileEntry(String name, Kind kind, long bytes, Instant modifiedAt, String unreadable, Id id) {
    /** What it is. */
    public enum Kind {
        FOLDER("folder"),
        FILE("file"),
        /** Leads to another name. */
        LINK("link"),
        /** A device, a pipe or a socket. */
        OTHER("other");

        private final String word;

        Kind(String word) {
            this.word = word;
        }

        /** On the wire. */
        public String word() {
            return word;
        }
    }

    /**
     * @param number        inode, or first cluster; 0 for none
     * @param oneAfterOther whether its clusters follow each other without a chain
     */
    public record Id(long number, boolean oneAfterOther) {
        static Id of(long number) {
            return new Id(number, false);
        }
    }

    public boolean isFolder() {
        return kind == Kind.FOLDER;
    }

    /** Whether it can be a name on any file system; one from a damaged or hostile disk may lead elsewhere. */
    public boolean isPlainName() {
        return !name.isEmpty() && !name.equals(".") && !name.equals("..") && name.indexOf('/') < 0 && name.indexOf('\0') < 0
            && name.length() <= 255;
    }
}
