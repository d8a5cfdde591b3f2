package app.granary.core.filesystem;

import java.util.Set;

/**
 * What of a disk a person wants read.
 *
 * @param allBlocks free blocks too, to recover deleted files or a damaged file system; then no file is left out either
 * @param keepSwap  page files, hibernation files and swap are kept as they are, instead of as zeros
 * @param without   numbers of partitions that are not read at all; their place is kept, as zeros. Usually empty: the small hidden ones are
 *                  what saves a system later
 */
public record SurveyChoice(boolean allBlocks, boolean keepSwap, Set<Integer> without) {
    /** The usual choice: used blocks, without page files, hibernation files and swap. */
    public static final SurveyChoice USED = new SurveyChoice(false, false);
    public static final SurveyChoice ALL_BLOCKS = new SurveyChoice(true, true);

    public SurveyChoice {
        without = Set.copyOf(without);
    }

    /** With every partition. */
    public SurveyChoice(boolean allBlocks, boolean keepSwap) {
        this(allBlocks, keepSwap, Set.of());
    }
}
