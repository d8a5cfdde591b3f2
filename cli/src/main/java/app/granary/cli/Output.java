package app.granary.cli;

import java.io.PrintWriter;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** How a command tells where long work stands and what came of it: for people, or as JSON. */
final class Output {
    @Mixin
    private ProgressOption progress;
    @Option(names = "--json", description = "print JSON")
    private boolean json;
    @Spec(Spec.Target.MIXEE)
    private CommandSpec spec;

    /** Whether what is printed at the end is for a program. */
    boolean json() {
        return json;
    }

    PrintWriter out() {
        return spec.commandLine().getOut();
    }

    PrintWriter err() {
        return spec.commandLine().getErr();
    }

    /** Tells where the work stands until it is closed. */
    ProgressLine watch() {
        return progress.watch(err(), json);
    }
}
