package app.granary.agent;

import app.granary.cli.ProgressLine;
import app.granary.core.destination.Destination;
import app.granary.core.machine.Network;
import app.granary.core.measure.Sizes;
import app.granary.engine.host.HostDisk;
import app.granary.engine.line.HostState;
import app.granary.engine.progress.Progress;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;

/**
 * What the console shows, as lines of text, so that it is the same on every terminal.
 *
 * @param office  as the office calls itself
 * @param address of it
 * @param since   when this computer joined, as people write it
 * @param reached whether the office can be spoken to now
 * @param network what the network to it carries; empty until that was measured
 */
record ConsolePage(String machine, String office, String address, String since, boolean reached, Optional<Network> network) {
    private static final String LABEL = "%-9s ";
    private static final String BESIDE = " ".repeat(10);

    /** Work under way, a line for each. */
    record Work(List<String> lines, boolean held) {
        static Work none() {
            return new Work(List.of(), false);
        }
    }

    /** Lines of progress as commands show them: each work has a rate of its own. */
    static final class ProgressLines {
        private final Map<UUID, ProgressLine> byWork = new HashMap<>();

        Work of(Map<UUID, Progress> underWay, boolean held) {
            byWork.keySet().retainAll(underWay.keySet());
            return new Work(underWay.entrySet().stream()
                .map(each -> byWork.computeIfAbsent(each.getKey(), key -> new ProgressLine(new PrintWriter(new StringWriter())))
                    .text(each.getValue()))
                .toList(), held);
        }
    }

    /** @param said what is told or asked last; an empty string for nothing */
    List<String> lines(HostState state, Work work, String said) {
        List<String> out = new ArrayList<>();
        out.add(label("Computer") + machine + ", joined " + office + " (" + address + ") at " + since
            + (reached ? "" : "; it cannot be reached now"));
        network.ifPresent(carries -> out.add(label("Network") + Sizes.decimal(carries.upBytes()) + "/s to the office, "
            + Sizes.decimal(carries.downBytes()) + "/s from it"));
        out.add("");
        rows(out, "Disks", state.computer().disks().stream().map(disk -> disk(disk, state)).toList(), "none");
        rows(out, "Drives", state.destinations().stream().map(ConsolePage::drive).toList(), "none is mounted");
        rows(out, "Now", work.lines.stream().map(line -> (work.held ? "held. " : "") + line).toList(),
            "nothing is under way; the office begins work");
        out.add("");
        out.add(keys(work));
        if (!said.isEmpty()) {
            out.add(said);
        }
        return out;
    }

    private static String keys(Work work) {
        return (work.lines.isEmpty() ? "" : (work.held ? "[h] go on   " : "[h] hold   ") + "[s] stop the work   ")
            + "[w] confirm a disk   [o] switch this computer off   [q] leave the office";
    }

    private static String label(String word) {
        return String.format(LABEL, word);
    }

    private static void rows(List<String> out, String word, List<String> rows, String none) {
        List<String> all = rows.isEmpty() ? List.of(none) : rows;
        for (int i = 0; i < all.size(); i++) {
            out.add((i == 0 ? label(word) : BESIDE) + all.get(i));
        }
    }

    private static String disk(HostDisk disk, HostState state) {
        String use = state.inUse().getOrDefault(disk.id(), "");
        return disk.name() + "  " + disk.identity().inWords() + (use.isEmpty() ? "" : "  in use: " + use);
    }

    private static String drive(Destination drive) {
        return drive.name() + "  " + Sizes.decimal(drive.freeBytes()) + " free of " + Sizes.decimal(drive.capacityBytes())
            + (drive.writable() ? "" : "  cannot be written");
    }
}
