package app.granary.engine.files;

import app.granary.core.filesystem.FileEntry;
import java.time.Instant;

/**
 * A name in a folder, as it is shown.
 *
 * @param folder     in which it lies, where it was searched for; otherwise an empty string
 * @param kind       "folder", "file", "link" or "other"
 * @param bytes      0 for all but files
 * @param unreadable why its content cannot be read; an empty string when it can
 * @param id         the same for two names that lead to the same file or folder
 */
public record FileLine(String folder, String name, String kind, long bytes, Instant modifiedAt, String unreadable, long id) {
    public static FileLine of(String folder, FileEntry each) {
        return new FileLine(folder, each.name(), each.kind().word(), each.bytes(), each.modifiedAt(),
            each.isPlainName() || each.name().isEmpty() ? each.unreadable() : "its name cannot be one here", each.id().number());
    }

    /** Not named as a property of it is, since it is told on the wire. */
    public boolean leadsDown() {
        return kind.equals(FileEntry.Kind.FOLDER.word());
    }
}
