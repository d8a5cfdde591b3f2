package app.granary.core.layout;

import app.granary.core.filesystem.FileSystem;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.core.measure.Sizes;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/** Which file systems can change their size, and with which of the system's own tools (the tools' manual pages, from memory). */
final class Resizing {
    /** A file system is not shrunk to its last byte: its own tables move along (common practice, no source). */
    private static final double SLACK = 1.05;
    private static final Set<String> EXT = Set.of("ext2", "ext3", "ext4");

    private static final String GROWS = "It grows into it once all is compared; should the outcome say that it could not, use this.";

    private Resizing() {
    }

    /** Whether it can take up room behind it, by whatever means. */
    static boolean grows(SurveyedPartition each) {
        return !each.partition().container() && !each.partition().type().hidden() && switch (each.fileSystem().kind()) {
            case "swap", "vfat", "exfat", "none", "unknown" -> false;
            default -> true;
        };
    }

    private static boolean shrinks(FileSystem fileSystem) {
        return fileSystem instanceof FileSystem.Mapped && (fileSystem.kind().equals("ntfs") || EXT.contains(fileSystem.kind()));
    }

    /** The smallest it can be made; its own size when it cannot be made smaller. */
    static long minBytes(SurveyedPartition each, long align) {
        if (!shrinks(each.fileSystem())) {
            return each.partition().sizeBytes();
        }
        long needed = Math.round(each.fileSystem().usedBytes().orElseThrow() * SLACK);
        return Math.min(each.partition().sizeBytes(), (needed + align - 1) / align * align);
    }

    /** What making it smaller means, up to where it is done. */
    static String shrunk(SurveyedPartition each, long toBytes) {
        boolean data = highest(each) > toBytes;
        return " made " + Sizes.decimal(each.partition().sizeBytes() - toBytes) + " smaller, down to " + Sizes.decimal(toBytes) + ". "
            + (data ? "Up to " + Sizes.decimal(Math.min(each.fileSystem().usedBytes().orElse(0), highest(each) - toBytes))
                + " of it lie behind that and are moved by the tool, which takes longer. "
                : "Nothing in use lies behind that, so it is quick. ");
    }

    /** A partition at the beginning of a sentence. */
    static String sentence(SurveyedPartition each) {
        String label = each.partition().label();
        return label.substring(0, 1).toUpperCase(Locale.ROOT) + label.substring(1);
    }

    /** @param place how the partition is named in commands, {@code /dev/sdXn} */
    static Step shrinkFirst(SurveyedPartition each, long toBytes, String place) {
        String why = sentence(each) + " must be" + shrunk(each, toBytes)
            + "Let it be made smaller on the way, in a scratch file (in a shell: --shrink); or "
            + "restore the image onto a disk that is large enough.";
        return new Step(Step.When.BEFORE, why, each.fileSystem().kind().equals("ntfs") ? "ntfsresize --size " + toBytes + " " + place
            : "e2fsck -f " + place + " && resize2fs " + place + " " + toBytes / 1024 + "K");
    }

    static long highest(SurveyedPartition each) {
        return each.toRead().isEmpty() ? 0 : each.toRead().end(each.toRead().count() - 1) - each.partition().startBytes();
    }

    static Optional<Step> grow(SurveyedPartition each, long byBytes, String place) {
        String what = sentence(each) + " has " + Sizes.decimal(byBytes) + " more than its file system uses. ";
        return switch (each.fileSystem().kind()) {
            case "ntfs" -> Optional.of(new Step(Step.When.AFTER, what + GROWS, "ntfsresize " + place));
            case "ext2", "ext3", "ext4" -> Optional.of(new Step(Step.When.AFTER, what + GROWS, "resize2fs " + place));
            case "xfs" -> Optional
                .of(new Step(Step.When.AFTER, what + "Let the file system grow into it once it is mounted.", "xfs_growfs MOUNT_POINT"));
            case "btrfs" -> Optional.of(new Step(Step.When.AFTER, what + "Let the file system grow into it once it is mounted.",
                "btrfs filesystem resize max MOUNT_POINT"));
            case "luks" -> Optional.of(new Step(Step.When.AFTER, what + "Unlock it, let the container grow, then the file system in it.",
                "cryptsetup resize NAME"));
            case "vfat", "exfat" -> Optional.of(new Step(Step.When.AFTER,
                what + "There is no standard tool that grows this kind; the room stays unused until it is made anew.", ""));
            default -> Optional.of(new Step(Step.When.AFTER, what + "Let its own system extend the volume.", ""));
        };
    }
}
