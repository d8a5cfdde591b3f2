package app.granary.core.filesystem;

/**
 * What of a disk a person wants read.
 *
 * @param allBlocks free blocks too, to recover deleted files or a damaged file system; then nothing is left out either
 * @param keepSwap  page files, hibernation files and swap are kept as they are, instead of as zeros
 */
public record SurveyChoice(boolean allBlocks, boolean keepSwap) {
    /** The usual choice: used blocks, without page files, hibernation files and swap. */
    public static final SurveyChoice USED = new SurveyChoice(false, false);
    public static final SurveyChoice ALL_BLOCKS = new SurveyChoice(true, true);
}
