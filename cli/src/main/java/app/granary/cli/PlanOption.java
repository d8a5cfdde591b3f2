package app.granary.cli;

import app.granary.engine.shell.ShellPlan;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;
import picocli.CommandLine.Option;

/** A plan that says how an image is made. */
final class PlanOption {
    @Option(names = "--plan", paramLabel = "FILE",
        description = "do what a plan says that was exported on its page: codec, level, parts, what is read, and the image's name; "
            + "another disk than the plan's is refused")
    private Path file;

    Optional<ShellPlan> plan() throws IOException {
        return file == null ? Optional.empty() : Optional.of(ShellPlan.read(file));
    }
}
