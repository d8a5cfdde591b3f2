package app.granary.core.filesystem;

import java.util.List;

/**
 * The files of one partition that lie on damaged bytes.
 *
 * @param paths from the root of the file system, with {@code /}, in order of name; at most {@link #MOST}
 * @param count how many there are in all
 * @param note  what could not be told, in a sentence, or an empty string when the list is whole
 */
public record FilesHit(List<String> paths, long count, String note) {
    /** More names than this help nobody; the count tells the rest. */
    public static final int MOST = 500;

    public FilesHit {
        paths = List.copyOf(paths);
    }
}
