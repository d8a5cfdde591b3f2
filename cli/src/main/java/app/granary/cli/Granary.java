package app.granary.cli;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.function.Supplier;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/** Entry point. Exit codes: 0 done, 1 refused, failed or damaged, 2 wrong usage, or an image that could not be checked. */
@Command(name = "granary", mixinStandardHelpOptions = true, version = "granary 0.1.0",
    description = "Images disks, checks images, copies and repairs them, puts them back.")
public final class Granary {
    /** In the order they are listed in. */
    private static final Map<String, Supplier<Callable<Integer>>> COMMANDS = new LinkedHashMap<>();

    static {
        COMMANDS.put("inspect", Inspect::new);
        COMMANDS.put("estimate", Estimate::new);
        COMMANDS.put("capture", CaptureCommand::new);
        COMMANDS.put("verify", Verify::new);
        COMMANDS.put("restore", RestoreCommand::new);
        COMMANDS.put("list", ListCommand::new);
        COMMANDS.put("files", FilesCommand::new);
        COMMANDS.put("fetch", FetchCommand::new);
        COMMANDS.put("copy", CopyCommand::new);
        COMMANDS.put("discs", DiscsCommand::new);
        COMMANDS.put("repair", RepairCommand::new);
        COMMANDS.put("serve-image", ServeImageCommand::new);
        COMMANDS.put("spare", SpareCommand::new);
        COMMANDS.put("write-stick", WriteStickCommand::new);
        COMMANDS.put("prepare", PrepareCommand::new);
    }

    private Granary() {
    }

    public static void main(String[] args) {
        System.exit(run(args));
    }

    /** Runs one command and gives its exit code. */
    public static int run(String... args) {
        CommandLine line = new CommandLine(new Granary());
        // reading what a command takes needs time, so only that of the one that is meant is read
        boolean one = args.length > 0 && COMMANDS.containsKey(args[0]);
        COMMANDS.forEach((name, command) -> {
            if (!one || name.equals(args[0])) {
                line.addSubcommand(name, command.get());
            }
        });
        line.setCaseInsensitiveEnumValuesAllowed(true);
        line.setExecutionExceptionHandler((failure, command, result) -> {
            boolean checking = command.getCommand() instanceof Verify;
            command.getErr().println("granary: " + sentence(failure));
            command.getErr().flush();
            return checking ? 2 : 1;
        });
        return line.execute(args);
    }

    private static String sentence(Exception failure) {
        if (failure instanceof FaultException known) {
            return known.fault().sentence();
        }
        if (failure instanceof IOException) {
            return Fault.of(Fault.Kind.DEVICE_FAILED, "",
                "Reading or writing failed: " + failure.getMessage() + ". Nothing was left under a final name.").sentence();
        }
        return "Something unforeseen happened (" + failure + "). Nothing was left under a final name.";
    }
}
