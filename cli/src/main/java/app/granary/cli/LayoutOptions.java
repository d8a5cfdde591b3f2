package app.granary.cli;

import app.granary.core.fault.Fault;
import app.granary.core.layout.LayoutChoice;
import java.io.IOException;
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

    LayoutChoice choice() throws IOException {
        LayoutChoice.Strategy strategy = switch (layout) {
            case "keep" -> LayoutChoice.Strategy.KEEP;
            case "grow" -> LayoutChoice.Strategy.GROW;
            case "share" -> LayoutChoice.Strategy.SHARE;
            default -> throw Fault.of(Fault.Kind.BAD_CHOICE, layout, "There is no layout \"" + layout + "\". Choose keep, grow or share.")
                .asException();
        };
        return new LayoutChoice(sizes == null ? strategy : LayoutChoice.Strategy.BY_HAND, !stay, sizes == null ? Map.of() : sizes,
            only == null ? Set.of() : only, false);
    }
}
