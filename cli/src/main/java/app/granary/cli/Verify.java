package app.granary.cli;

import app.granary.core.proof.CheckDepth;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.engine.progress.Watch;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(name = "verify", description = "Checks an image. Exit 0: sound, 1: damaged, 2: could not be checked.", mixinStandardHelpOptions = true)
final class Verify implements Callable<Integer> {
    @Parameters(index = "0", paramLabel = "BAG", description = "the image's folder")
    Path bag;
    @Option(names = "--depth", paramLabel = "DEPTH", defaultValue = "frames", description = "presence, digests or frames (default: ${DEFAULT-VALUE})")
    CheckDepth depth;
    @Option(names = "--json", description = "print JSON")
    boolean json;
    @Spec
    CommandSpec spec;

    @Override
    public Integer call() throws IOException {
        CheckOutcome outcome = Verification.run(bag, depth, Watch.NONE);
        PrintWriter out = spec.commandLine().getOut();
        if (json) {
            Printed.json(out, fields -> {
                fields.writeBooleanField("ok", outcome.ok());
                fields.writeStringField("depth", outcome.depth().word());
                fields.writeArrayFieldStart("problems");
                for (Problem problem : outcome.problems()) {
                    fields.writeStartObject();
                    fields.writeStringField("part", problem.part());
                    fields.writeNumberField("offsetBytes", problem.offsetBytes());
                    fields.writeNumberField("lengthBytes", problem.lengthBytes());
                    fields.writeStringField("partition", problem.partition());
                    fields.writeStringField("message", problem.message());
                    fields.writeEndObject();
                }
                fields.writeEndArray();
            });
        } else {
            Printed.row(out, "image", bag.toString());
            Printed.row(out, outcome.ok() ? "sound" : "damaged", "checked to: " + outcome.depth().word() + ", " + Printed.size(outcome.readBytes()) + " read");
            outcome.problems().forEach(problem -> Printed.row(out, "", problem.message()));
        }
        return outcome.ok() ? 0 : 1;
    }
}
