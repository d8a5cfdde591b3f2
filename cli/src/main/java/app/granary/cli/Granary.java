package app.granary.cli;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import java.io.IOException;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/** Entry point. Exit codes: 0 done, 1 refused, failed or damaged, 2 wrong usage, or an image that could not be checked. */
@Command(name = "granary", mixinStandardHelpOptions = true, version = "granary 0.1.0",
    description = "Images disks, checks images, puts them back.",
    subcommands = {Inspect.class, Estimate.class, CaptureCommand.class, Verify.class, RestoreCommand.class})
public final class Granary {
    private Granary() {
    }

    public static void main(String[] args) {
        System.exit(run(args));
    }

    /** Runs one command and gives its exit code. */
    public static int run(String... args) {
        CommandLine line = new CommandLine(new Granary());
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
