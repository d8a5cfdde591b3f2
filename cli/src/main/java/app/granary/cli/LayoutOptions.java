package app.granary.cli;

import app.granary.core.fault.Fault;
import app.granary.core.layout.LayoutChoice;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import picocli.CommandLine.Option;

/** How an image is laid onto a target of another size. */
final class LayoutOptions {
    @Option(names = "--layout", paramLabel = "keep|grow|share",
        description = "what becomes of room beyond the image's partitions: it stays free, the main one takes it, or all share it "
            + "(default: keep)",
        defaultValue = "keep")
    String layout;
    @Option(names = "--size", paramLabel = "NUMBER=BYTES",
        description = "size of one partition; may be given several times, instead of --layout")
    Map<Integer, Long> sizes;
    @Option(names = "--only", paramLabel = "NUMBER", split = ",", description = "restore only these partitions")
    Set<Integer> only;
    @Option(names = "--stay", description = "leave what lies behind the main partition where it is, even where that blocks its growth")
    boolean stay;

    @Option(names = "--shrink", description = "make file systems smaller on the way where the target is too small for them as they are")
    boolean shrink;
    @Option(names = "--scratch", paramLabel = "FOLDER",
        description = "with --shrink: where the scratch file lies, in which that is done (default: the system's folder for such files)")
    Path scratch;

    /** Where file systems are made smaller. */
    Path scratch() throws IOException {
        Path folder = scratch == null ? Path.of(System.getProperty("java.io.tmpdir")) : scratch;
        if (!Files.isDirectory(folder)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, folder.toString(), folder + " is no folder. Name one with room for a scratch file.")
                .asException();
        }
        return folder;
    }

    LayoutChoice choice() throws IOException {
        LayoutChoice.Strategy strategy = switch (layout) {
            case "keep" -> LayoutChoice.Strategy.KEEP;
            case "grow" -> LayoutChoice.Strategy.GROW;
            case "share" -> LayoutChoice.Strategy.SHARE;
            default -> throw Fault.of(Fault.Kind.BAD_CHOICE, layout, "There is no layout \"" + layout + "\". Choose keep, grow or share.")
                .asException();
        };
        return new LayoutChoice(sizes == null ? strategy : LayoutChoice.Strategy.BY_HAND, !stay, sizes == null ? Map.of() : sizes,
            only == null ? Set.of() : only, false, Map.of(), List.of(), shrink);
    }
}
