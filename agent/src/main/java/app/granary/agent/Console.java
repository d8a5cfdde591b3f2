package app.granary.agent;

import app.granary.core.plan.Afterwards;
import app.granary.engine.host.HostDisk;
import app.granary.engine.line.HostState;
import java.io.IOException;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Optional;
import org.jline.terminal.Attributes;
import org.jline.terminal.Terminal;
import org.jline.terminal.TerminalBuilder;
import org.jline.utils.AttributedString;
import org.jline.utils.Display;

/** The computer's own screen while it is at the office's hand: what it is, what is under way, and keys to hold, stop and switch off. */
final class Console implements Line.Words, AutoCloseable {
    private static final long REDRAWN_MILLIS = 500;
    private static final DateTimeFormatter CLOCK = DateTimeFormatter.ofPattern("HH:mm");

    private final Terminal terminal;
    private final Attributes before;
    private final Display display;
    private final ConsolePage.ProgressLines progress = new ConsolePage.ProgressLines();
    private final String since = CLOCK.format(LocalTime.ofInstant(Instant.now(), ZoneId.systemDefault()));
    private volatile String said = "";
    private char asked;
    private Optional<Confirming> confirming = Optional.empty();

    /** What became of the person's last key. */
    private enum Next {
        GOES_ON, LEAVES
    }

    private Console(Terminal terminal) {
        this.terminal = terminal;
        this.before = terminal.enterRawMode();
        this.display = new Display(terminal, false);
    }

    /** @throws app.granary.core.fault.FaultException when there is no terminal to draw on */
    static Console open() throws IOException {
        Terminal found = TerminalBuilder.builder().system(true).provider("exec").dumb(true).build();
        if (Terminal.TYPE_DUMB.equals(found.getType()) || found.getWidth() <= 0) {
            found.close();
            throw app.granary.core.fault.Fault.of(app.granary.core.fault.Fault.Kind.BAD_CHOICE, "--console",
                "This is no terminal to draw on. Leave --console out, or start it in a shell of its own.").asException();
        }
        return new Console(found);
    }

    @Override
    public void say(String sentence) {
        said = sentence;
    }

    /** Draws and listens until the person leaves, or the line has ended. */
    void watch(Machine machine, Office office, Line line) throws IOException {
        display.resize(terminal.getHeight(), terminal.getWidth());
        while (true) {
            HostState state = machine.state();
            ConsolePage page = new ConsolePage(machine.name(), office.name(), office.address().toString(), since, line.carries(),
                line.network());
            draw(page.lines(state, progress.of(line.answering().underWay(), line.answering().held()), said));
            int key = terminal.reader().read(REDRAWN_MILLIS);
            if (key == -1 || key > 0 && pressed((char) key, machine, line, state) == Next.LEAVES) {
                return;
            }
        }
    }

    private void draw(List<String> lines) {
        int width = Math.max(20, terminal.getWidth() - 1);
        display.update(lines.stream().map(each -> new AttributedString(each.length() > width ? each.substring(0, width) : each)).toList(),
            -1);
    }

    private Next pressed(char key, Machine machine, Line line, HostState state) {
        if (confirming.isPresent()) {
            Confirming open = confirming.get();
            open.pressed(key, state.targets(), line::tell);
            said = open.said();
            confirming = confirming.filter(each -> !each.ended());
            return Next.GOES_ON;
        }
        boolean confirmed = key == 'y' && asked != 0;
        char meant = confirmed ? asked : key;
        asked = 0;
        said = "";
        boolean idle = line.answering().underWay().isEmpty();
        switch (meant) {
            case 'h' -> line.answering().holdAll(!line.answering().held());
            case 'w' -> {
                confirming = Optional.of(new Confirming());
                said = confirming.get().said();
            }
            case 's' -> stop(confirmed, idle, line);
            case 'o' -> switchOff(confirmed, idle, machine, state);
            case 'q' -> {
                if (idle || confirmed) {
                    return Next.LEAVES;
                }
                ask('q', "Work is under way and would end with this. Leave all the same? [y] yes, any other key: no");
            }
            default -> {
            }
        }
        return Next.GOES_ON;
    }

    private void ask(char what, String question) {
        asked = what;
        said = question;
    }

    private void stop(boolean confirmed, boolean idle, Line line) {
        if (idle) {
            said = "Nothing is under way.";
        } else if (confirmed) {
            line.answering().stopAll();
            said = "It stops at its next step. What was written of an image can be carried on.";
        } else {
            ask('s', "Stop the work? [y] yes, any other key: no");
        }
    }

    private void switchOff(boolean confirmed, boolean idle, Machine machine, HostState state) {
        if (!idle) {
            said = "Work is under way. Stop it first, or let it end.";
        } else if (!confirmed) {
            ask('o', "Switch this computer off? [y] yes, any other key: no");
        } else {
            try {
                String disk = state.computer().disks().stream().map(HostDisk::id).findFirst().orElse("");
                machine.host().afterwards(disk, Afterwards.OFF);
                said = "It is switched off in a minute; shutdown -c takes that back.";
            } catch (IOException refused) {
                said = refused.getMessage();
            }
        }
    }

    @Override
    public void close() throws IOException {
        terminal.setAttributes(before);
        terminal.writer().println();
        terminal.flush();
        terminal.close();
    }
}
