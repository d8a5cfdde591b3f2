package app.granary.cli;

import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.restore.Restore;
import app.granary.engine.restore.RestoreOutcome;
import app.granary.engine.restore.RestoreRequest;
import app.granary.engine.restore.RestoreTarget;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "restore", description = "Writes an image back into a new file, or onto a disk named again by its serial.",
    mixinStandardHelpOptions = true)
final class RestoreCommand implements Callable<Integer> {
    @Parameters(index = "0", paramLabel = "BAG", description = "the image's folder")
    Path bag;
    @Mixin
    TargetArgument target;
    @Mixin
    LayoutOptions layout;
    @Option(names = "--zero-unused", description = "write zeros where nothing is in use (default: a device keeps what it has there)")
    boolean zeroUnused;
    @Option(names = "--no-compare", description = "do not read the target back")
    boolean noCompare;
    @Option(names = "--accept-damage", description = "pass over damaged parts of the image as zeros, and tell which")
    boolean acceptDamage;
    @Mixin
    PassphraseOption secret;
    @Mixin
    Output output;

    private RestoreOutcome watched(Bag image, ImageJson.Content content, RestoreRequest request, RestoreTarget to) throws IOException {
        try (ProgressLine watch = output.watch()) {
            return Restore.run(image, content, request, to, watch);
        }
    }

    @Override
    public Integer call() throws IOException {
        long began = System.nanoTime();
        Bag image = Bag.open(bag, secret.passphrase());
        target.require();
        ImageJson.Content content = image.content();
        image.requireOpens(content.description());
        DiskSurvey survey = Restore.survey(image, content);
        long bytes = target.bytes(content.description().disk().sizeBytes(), content.description().sectorBytes());
        int sectorBytes = target.sectorBytes(survey.sectorBytes());
        RestoreLayout planned = RestoreLayout.of(survey, target.into(bytes, sectorBytes), layout.choice());
        RestoreRequest asked = RestoreRequest.of(survey, planned).comparing(!noCompare).zeroing(zeroUnused).acceptingDamage(acceptDamage);
        RestoreRequest request = planned.shrinks() ? asked.scratching(layout.scratch()) : asked;
        RestoreOutcome outcome = target.write(bytes, planned.partitionBytes(), sectorBytes, to -> watched(image, content, request, to));
        double seconds = (System.nanoTime() - began) / 1e9;
        PrintWriter out = output.out();
        if (output.json()) {
            Printed.json(out, fields -> {
                fields.writeNumberField("targetBytes", outcome.targetBytes());
                fields.writeNumberField("writtenBytes", outcome.writtenBytes());
                fields.writeNumberField("unallocatedBytes", planned.unallocatedBytes());
                fields.writeBooleanField("compared", outcome.compared());
                fields.writeNumberField("differences", outcome.differences().size());
                fields.writeNumberField("passedOver", outcome.passedOver().size());
                fields.writeArrayFieldStart("lengths");
                for (String each : outcome.lengths()) {
                    fields.writeString(each);
                }
                fields.writeEndArray();
                fields.writeNumberField("seconds", seconds);
            });
        } else {
            print(out, planned, outcome, seconds);
        }
        return outcome.differences().isEmpty() ? 0 : 1;
    }

    private void print(PrintWriter out, RestoreLayout planned, RestoreOutcome outcome, double seconds) {
        Printed.row(out, "restored", Printed.size(outcome.targetBytes()) + " to " + target.path() + " in " + String.format("%.1f s",
            seconds));
        Printed.row(out, "compared",
            !outcome.compared() ? "no" : outcome.differences().isEmpty() ? "yes, and equal" : outcome.differences().get(0).message());
        Printed.row(out, "unallocated", Printed.size(planned.unallocatedBytes()));
        planned.remarks().forEach(each -> Printed.row(out, "remark", each));
        outcome.lengths().forEach(each -> Printed.row(out, "length", each));
        outcome.passedOver().forEach(each -> Printed.row(out, "damage", each.message()));
        planned.steps().forEach(each -> Printed.row(out, "then", each.sentence() + (each.command().isEmpty() ? "" : " " + each.command())));
    }
}
