package app.granary.cli;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.image.ImageName;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageDescription;
import app.granary.engine.host.ImageWork;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** What is missing of an image is found at once; whether its bytes are sound is what {@code verify} reads for. */
@Command(name = "list", description = "Shows the images in a folder, newest first. Exit 1: one of them is incomplete.",
    mixinStandardHelpOptions = true)
final class ListCommand implements Callable<Integer> {
    @Parameters(index = "0", paramLabel = "FOLDER", description = "a folder with images")
    Path folder;
    @Option(names = "--json", description = "print JSON")
    boolean json;
    @Spec
    CommandSpec spec;

    /** @param problem what is wrong with it; an empty string for one that is complete, as far as its sizes say */
    private record Line(String name, String madeAt, String model, String serial, long diskBytes, long storedBytes, boolean encrypted,
        String problem) {
        static Line of(Path bag) {
            String name = bag.getFileName().toString();
            try {
                ImageDescription d = Bag.open(bag).content().description();
                CheckOutcome complete = ImageWork.check(bag, Passphrase.NONE, ProofLevel.COMPLETE, bag, Watch.NONE);
                return new Line(name, d.madeAt(), d.disk().model(), d.disk().serial(), d.disk().sizeBytes(),
                    d.parts().stream().mapToLong(ImageDescription.Part::storedBytes).sum(), d.encrypted(),
                    complete.ok() ? "" : complete.problems().get(0).message());
            } catch (FaultException damaged) {
                return new Line(name, "", "", "", 0, 0, false, damaged.fault().sentence());
            } catch (IOException unreadable) {
                return new Line(name, "", "", "", 0, 0, false, "It cannot be read: " + unreadable.getMessage());
            }
        }
    }

    @Override
    public Integer call() throws IOException {
        if (!Files.isDirectory(folder)) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, folder.toString(), folder + " is no folder. Name one that holds images.")
                .asException();
        }
        List<Line> lines = new ArrayList<>();
        List<String> unfinished = new ArrayList<>();
        try (Stream<Path> entries = Files.list(folder)) {
            for (Path each : entries.filter(Files::isDirectory).sorted().toList()) {
                String name = each.getFileName().toString();
                if (name.endsWith(ImageName.PARTIAL)) {
                    unfinished.add(name.substring(0, name.length() - ImageName.PARTIAL.length()));
                } else if (Bag.isBag(each)) {
                    lines.add(Line.of(each));
                }
            }
        }
        lines.sort(Comparator.comparing(Line::madeAt).reversed().thenComparing(Line::name));
        PrintWriter out = spec.commandLine().getOut();
        if (json) {
            json(out, lines, unfinished);
        } else {
            print(out, lines, unfinished);
        }
        return lines.stream().allMatch(each -> each.problem.isEmpty()) ? 0 : 1;
    }

    private static void json(PrintWriter out, List<Line> lines, List<String> unfinished) throws IOException {
        Printed.json(out, fields -> {
            fields.writeArrayFieldStart("images");
            for (Line each : lines) {
                fields.writeStartObject();
                fields.writeStringField("name", each.name);
                fields.writeStringField("madeAt", each.madeAt);
                fields.writeStringField("model", each.model);
                fields.writeStringField("serial", each.serial);
                fields.writeNumberField("diskBytes", each.diskBytes);
                fields.writeNumberField("storedBytes", each.storedBytes);
                fields.writeBooleanField("encrypted", each.encrypted);
                fields.writeStringField("level", each.problem.isEmpty() ? ProofLevel.COMPLETE.word() : "damaged");
                fields.writeStringField("problem", each.problem);
                fields.writeEndObject();
            }
            fields.writeEndArray();
            fields.writeArrayFieldStart("unfinished");
            for (String each : unfinished) {
                fields.writeString(each);
            }
            fields.writeEndArray();
        });
    }

    private static void print(PrintWriter out, List<Line> lines, List<String> unfinished) {
        if (lines.isEmpty() && unfinished.isEmpty()) {
            out.println("There are no images in that folder.");
        }
        for (Line each : lines) {
            out.printf("%-32s %-16s %10s of %10s  %s%s%n", each.name, each.madeAt.length() < 16 ? each.madeAt
                : each.madeAt.substring(0, 16).replace('T', ' '), app.granary.core.measure.Sizes.decimal(each.storedBytes),
                app.granary.core.measure.Sizes.decimal(each.diskBytes), each.problem.isEmpty()
                    ? (each.model + " " + each.serial).strip() + (each.encrypted ? ", encrypted" : "") : each.problem,
                each.problem.isEmpty() ? ", complete" : "");
        }
        unfinished.forEach(each -> out.printf("%-32s unfinished; capture --carry-on goes on with it%n", each));
        out.flush();
    }
}
