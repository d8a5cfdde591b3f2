package app.granary.core.layout;

import app.granary.core.filesystem.FileSystem;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.core.measure.Sizes;
import java.util.Optional;

/** Which file systems can change their size, and with which of the system's own tools (the tools' manual pages, from memory). */
final class Resizing {
    /** A file system is not shrunk to its last byte: its own tables move along (common practice, no source). */
    private static final double SLACK = 1.05;

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
        return fileSystem instanceof FileSystem.Mapped && (fileSystem.kind().equals("ntfs") || fileSystem.kind().equals("ext4"));
    }

    /** The smallest it can be made; its own size when it cannot be made smaller. */
    static long minBytes(SurveyedPartition each, long align) {
        if (!shrinks(each.fileSystem())) {
            return each.partition().sizeBytes();
        }
        long needed = Math.round(each.fileSystem().usedBytes().orElseThrow() * SLACK);
        return Math.min(each.partition().sizeBytes(), (needed + align - 1) / align * align);
    }

    /** @param place how the partition is named in commands, {@code /dev/sdXn} */
    static Step shrink(SurveyedPartition each, long toBytes, String place) {
        boolean data = highest(each) > toBytes;
        String why = each.partition().label() + " must first be made " + Sizes.decimal(each.partition().sizeBytes() - toBytes)
            + " smaller, down to " + Sizes.decimal(toBytes) + ". "
            + (data ? Sizes.decimal(highest(each) - toBytes) + " of it lie behind that and are moved by the tool, which takes longer. "
                : "Nothing in use lies behind that, so it is quick. ")
            + "Restore the image onto a disk or file that is large enough, shrink it there, capture it again.";
        return new Step(Step.When.BEFORE, why, each.fileSystem().kind().equals("ntfs") ? "ntfsresize --size " + toBytes + " " + place
            : "e2fsck -f " + place + " && resize2fs " + place + " " + toBytes / 1024 + "K");
    }

    static long highest(SurveyedPartition each) {
        return each.toRead().isEmpty() ? 0 : each.toRead().end(each.toRead().count() - 1) - each.partition().startBytes();
    }

    static Optional<Step> grow(SurveyedPartition each, long byBytes, String place) {
        String what = each.partition().label() + " has " + Sizes.decimal(byBytes) + " more than its file system uses. ";
        return switch (each.fileSystem().kind()) {
            case "ntfs" -> Optional.of(new Step(Step.When.AFTER,
                what + "Let its own system extend the volume, or use this before it starts.", "ntfsresize " + place));
            case "ext4" -> Optional.of(new Step(Step.When.AFTER, what + "Let the file system grow into it.", "resize2fs " + place));
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
