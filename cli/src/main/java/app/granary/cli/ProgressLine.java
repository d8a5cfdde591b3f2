package app.granary.cli;

import app.granary.core.estimate.TimeLeft;
import app.granary.core.measure.Durations;
import app.granary.core.measure.Sizes;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Optional;
import org.jline.terminal.Terminal;
import org.jline.terminal.TerminalBuilder;
import org.jline.utils.InfoCmp.Capability;

/**
 * Tells a person in a shell where long work stands: on a terminal in one line that is drawn anew four times a second, elsewhere in a line
 * every half minute. Work of less than half a second says nothing. Safe for several threads.
 */
public final class ProgressLine implements Watch, AutoCloseable {
    private static final double FIRST_SECONDS = 0.5;
    private static final double REDRAWN_SECONDS = 0.25;
    private static final double TOLD_SECONDS = 30;
    private static final double NANOS = 1e9;
    /** How much too long or short the first guess by the rate alone may be. */
    private static final double FIRST_DOUBT = 0.3;

    private final ProgressOption.Form form;
    private final PrintWriter err;
    private final long began = System.nanoTime();
    private Optional<Terminal> terminal = Optional.empty();
    private boolean looked;
    private boolean drawn;
    private Optional<Progress.Stage> stage = Optional.empty();
    private long stageBegan;
    private long told = System.nanoTime();
    private Optional<TimeLeft> left = Optional.empty();

    ProgressLine(ProgressOption.Form form, PrintWriter err) {
        this.form = form;
        this.err = err;
    }

    /** A line in any case, as for work that a person watches. */
    public ProgressLine(PrintWriter err) {
        this(ProgressOption.Form.line, err);
    }

    @Override
    public boolean stopRequested() {
        return false;
    }

    @Override
    public synchronized void advanced(Progress now) {
        long at = System.nanoTime();
        if (!stage.equals(Optional.of(now.stage()))) {
            stage = Optional.of(now.stage());
            stageBegan = at;
            left = Optional.empty();
        }
        if (form == ProgressOption.Form.none || (at - began) / NANOS < FIRST_SECONDS) {
            return;
        }
        if (form == ProgressOption.Form.json) {
            json(now, at);
        } else {
            line(now, at);
        }
    }

    private void json(Progress now, long at) {
        if ((at - told) / NANOS >= REDRAWN_SECONDS) {
            told = at;
            err.println("{\"stage\":\"" + now.stage().word() + "\",\"doneBytes\":" + now.doneBytes() + ",\"totalBytes\":" + now.totalBytes()
                + ",\"storedBytes\":" + now.storedBytes() + "}");
            err.flush();
        }
    }

    private void line(Progress now, long at) {
        look();
        if ((at - told) / NANOS < (terminal.isPresent() ? REDRAWN_SECONDS : TOLD_SECONDS)) {
            return;
        }
        String text = text(now, (at - stageBegan) / NANOS, (at - told) / NANOS);
        told = at;
        if (terminal.isEmpty()) {
            err.println(text);
            err.flush();
            return;
        }
        Terminal on = terminal.get();
        int width = on.getWidth() > 1 ? on.getWidth() - 1 : 79;
        on.puts(Capability.carriage_return);
        on.writer().print(text.length() > width ? text.substring(0, width) : text);
        on.puts(Capability.clr_eol);
        on.flush();
        drawn = true;
    }

    /** Where work stands, by the time since it was first told of. */
    public synchronized String text(Progress now) {
        long at = System.nanoTime();
        if (!stage.equals(Optional.of(now.stage()))) {
            stage = Optional.of(now.stage());
            stageBegan = at;
            told = at;
            left = Optional.empty();
        }
        String out = text(now, (at - stageBegan) / NANOS, (at - told) / NANOS);
        told = at;
        return out;
    }

    /** "Capturing: 412 MB of 1.20 GB, 187 MB written, 96 MB/s, 8 s to 11 s left". */
    String text(Progress now, double stageSeconds, double sinceSeconds) {
        StringBuilder out = new StringBuilder(now.stage().word().substring(0, 1).toUpperCase(Locale.ROOT))
            .append(now.stage().word().substring(1)).append(": ").append(Sizes.decimal(now.doneBytes())).append(" of ")
            .append(Sizes.decimal(now.totalBytes()));
        if (now.storedBytes() > 0) {
            out.append(", ").append(Sizes.decimal(now.storedBytes())).append(" written");
        }
        double rate = now.doneBytes() / Math.max(0.001, stageSeconds);
        if (rate > 0 && now.totalBytes() > now.doneBytes()) {
            double byRate = (now.totalBytes() - now.doneBytes()) / rate;
            left = Optional.of(left.map(before -> before.next(sinceSeconds, byRate, (double) now.doneBytes() / now.totalBytes()))
                .orElse(new TimeLeft(byRate * (1 - FIRST_DOUBT), byRate * (1 + FIRST_DOUBT))));
            out.append(", ").append(Sizes.decimal((long) rate)).append("/s, ")
                .append(Durations.range(left.get().lowSeconds(), left.get().highSeconds())).append(" left");
        }
        return out.toString();
    }

    /** By what the system says the open file is; asking a terminal's programs costs a third of a second, in every pipe too. */
    private static boolean errIsTerminal() {
        try {
            String open = Files.readSymbolicLink(Path.of("/proc/self/fd/2")).toString();
            return open.startsWith("/dev/pts/") || open.startsWith("/dev/tty") || open.startsWith("/dev/console");
        } catch (IOException | RuntimeException unknown) {
            return true;
        }
    }

    /** By programs of the system, so that nothing native is loaded for it. */
    private void look() {
        if (!looked) {
            looked = true;
            if (!errIsTerminal()) {
                return;
            }
            try {
                Terminal found = TerminalBuilder.builder().system(true).systemOutput(TerminalBuilder.SystemOutput.SysErr).provider("exec")
                    .dumb(true).build();
                terminal = Terminal.TYPE_DUMB.equals(found.getType()) ? Optional.empty() : Optional.of(found);
            } catch (IOException | RuntimeException none) {
                terminal = Optional.empty();
            }
        }
    }

    /** The line that was drawn stays, and what comes next stands below it. */
    @Override
    public synchronized void close() {
        if (drawn) {
            terminal.get().writer().println();
            terminal.get().flush();
            drawn = false;
        }
    }
}
