package app.granary.agent;

import app.granary.core.agent.JoinCode;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Entry point. Exit codes: 0 ended by a person, 1 refused or failed, 2 wrong usage. */
@Command(name = "granary-agent", mixinStandardHelpOptions = true, version = "granary-agent 0.1.0",
    description = "Puts this computer's disks at the office's hand.", subcommands = AgentCommand.Join.class)
public final class AgentCommand {
    private AgentCommand() {
    }

    public static void main(String[] args) {
        System.exit(run(args));
    }

    /** Runs one command and gives its exit code. */
    public static int run(String... args) {
        CommandLine line = new CommandLine(new AgentCommand());
        // the start script starts Java in the agent's own folder, and says where the person was
        line.registerConverter(Path.class, text -> Path.of(System.getProperty("granary.from", "")).resolve(text));
        line.setExecutionExceptionHandler((failure, command, result) -> {
            command.getErr().println("granary-agent: " + (failure instanceof FaultException known ? known.fault().sentence()
                : "Something failed (" + failure.getMessage() + ")."));
            command.getErr().flush();
            return 1;
        });
        return line.execute(args);
    }

    /** Stays until it is ended, or sent away. */
    @Command(name = "join", mixinStandardHelpOptions = true, description = "Joins an office by a code that its technician made.")
    static final class Join implements Callable<Integer> {
        @Parameters(paramLabel = "URL", description = "the office's address for agents: https://HOST:PORT")
        private URI office;
        @Option(names = "--code", required = true, paramLabel = "CODE", description = "as it stands on the Computers page; good once")
        private String code;
        @Option(names = "--disk", paramLabel = "FILE", description = "a raw file that stands for a disk, besides this computer's own")
        private List<Path> disks = List.of();
        @Option(names = "--drive", paramLabel = "FOLDER", description = "a folder that stands for a drive, besides those that are mounted")
        private List<Path> drives = List.of();
        @Option(names = "--only-these", description = "tells of no disks and drives but those named here; for practice")
        private boolean onlyThese;
        @Option(names = "--name", paramLabel = "NAME", description = "what this computer is called; its own name without it")
        private String name = "";

        @Option(names = "--console", description = "shows on this terminal what goes on, with keys to hold, to stop and to switch off")
        private boolean console;

        @Override
        public Integer call() throws IOException, InterruptedException {
            JoinCode read = JoinCode.parse(code).orElseThrow(() -> Fault.of(Fault.Kind.BAD_CHOICE, "--code",
                "That is no code, or a sign of it is mistyped. Read it off the Computers page once more: seven groups of signs.")
                .asException());
            if (!"https".equals(office.getScheme()) || office.getHost() == null) {
                throw Fault.of(Fault.Kind.BAD_CHOICE, "URL",
                    "\"" + office
                    + "\" is no address for agents. Write it as the Computers page shows it: https://HOST:PORT.").asException();
            }
            LentFolders lent = new LentFolders();
            try (Machine machine = Machine.of(name, disks, drives, onlyThese, lent)) {
                Office joined = Office.join(office, read, machine.name(), Clock.systemUTC());
                lent.from(joined);
                return console ? watched(joined, machine) : plain(joined, machine);
            }
        }

        private static int plain(Office joined, Machine machine) throws IOException, InterruptedException {
            System.out.println(joined.welcome());
            return new Line(joined, machine, Optional.empty(), sentence -> System.err.println("granary-agent: " + sentence)).stay() ? 0 : 1;
        }

        /** The line is kept by a thread of its own, since the person may leave at any moment. */
        private static int watched(Office joined, Machine machine) throws IOException {
            try (Console console = Console.open()) {
                console.say(joined.welcome());
                Line line = new Line(joined, machine, Optional.empty(), console);
                Thread keeping = new Thread(() -> {
                    try {
                        line.stay();
                    } catch (IOException | InterruptedException ended) {
                        console.say("The line to the office ended: " + ended.getMessage());
                    }
                }, "granary-agent");
                keeping.setDaemon(true);
                keeping.start();
                console.watch(machine, joined, line);
                return 0;
            }
        }
    }
}
