package app.granary.engine.restore;

import app.granary.core.fault.Fault;
import app.granary.engine.progress.Watch;
import app.granary.engine.tool.SystemTool;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Changes the length of a file system by the system's own tools, each time with a check before and after: e2fsck and resize2fs (e2fsprogs),
 * ntfsresize (ntfs-3g). No other kind can be changed. Exit statuses: 0 for sound and 1 for mended of e2fsck (its manual page), 0 of the
 * others.
 */
final class FileSystemLength {
    private static final Set<String> EXT = Set.of("ext2", "ext3", "ext4");
    private static final int MENDED = 1;
    /** Moving the blocks of a large disk takes hours. */
    private static final Duration PATIENCE = Duration.ofHours(24);
    private static final int MOST_TOLD = 300;

    private final Path at;
    private final String kind;
    private final String label;
    private final Map<String, String> environment;
    private final Watch watch;

    /**
     * @param at    a file or device that holds it from its first byte on
     * @param label how people know the partition
     */
    FileSystemLength(Path at, String kind, String label, Watch watch) {
        this(at, kind, label, Map.of(), watch);
    }

    /** @param environment that the tools are run with, besides this program's own */
    FileSystemLength(Path at, String kind, String label, Map<String, String> environment, Watch watch) {
        this.at = at;
        this.kind = kind;
        this.label = label;
        this.environment = environment;
        this.watch = watch;
    }

    /** Its file system, at the beginning of a sentence. */
    static String of(String label) {
        return label.startsWith("the ") ? "T" + label.substring(1) : "The file system of " + label;
    }

    static boolean changes(String kind) {
        return EXT.contains(kind) || kind.equals("ntfs");
    }

    /** @throws app.granary.core.fault.FaultException when a tool refuses, with what it said */
    void shrink(long toBytes) throws IOException {
        sound("could not be made smaller");
        if (EXT.contains(kind)) {
            // its own least size is an estimate with room to spare (its manual page, -P and -f); what does not fit, it still refuses
            run(List.of("resize2fs", "-f", at.toString(), toBytes / 1024 + "K"), "could not be made smaller", 0);
        } else {
            run(List.of("ntfsresize", "--force", "--no-progress-bar", "--size", "" + toBytes, at.toString()),
                "could not be made smaller", 0);
        }
        check("is not sound after it was made smaller");
    }

    /** To the end of what it lies on. */
    void grow() throws IOException {
        sound("did not grow");
        if (EXT.contains(kind)) {
            run(List.of("resize2fs", at.toString()), "did not grow", 0);
        } else {
            run(List.of("ntfsresize", "--force", "--no-progress-bar", at.toString()), "did not grow", 0);
        }
        check("is not sound after it grew");
    }

    /** One that was in use when the image was made is put right first, as its system would at its next start. */
    private void sound(String otherwise) throws IOException {
        if (EXT.contains(kind)) {
            run(List.of("e2fsck", "-f", "-p", at.toString()), otherwise, MENDED);
        } else {
            run(List.of("ntfsresize", "--check", at.toString()), otherwise, 0);
        }
    }

    private void check(String otherwise) throws IOException {
        run(EXT.contains(kind) ? List.of("e2fsck", "-f", "-n", at.toString()) : List.of("ntfsresize", "--check", "--force", at.toString()),
            otherwise, 0);
    }

    private void run(List<String> command, String otherwise, int highest) throws IOException {
        String tool = command.get(0);
        SystemTool.Said said = SystemTool.run(command, environment, true, PATIENCE,
            "Install " + (kind.equals("ntfs") ? "ntfs-3g" : "e2fsprogs") + ", and try again.", watch);
        if (said.exit() < 0 || said.exit() > highest) {
            String text = said.text().replaceAll("\\s+", " ");
            throw Fault.of(Fault.Kind.UNSUPPORTED, label, of(label) + " " + otherwise + ": " + tool + " said \""
                + (text.length() > MOST_TOLD ? "…" + text.substring(text.length() - MOST_TOLD) : text) + "\".").asException();
        }
    }
}
