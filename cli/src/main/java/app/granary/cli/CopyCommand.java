package app.granary.cli;

import app.granary.core.fault.Fault;
import app.granary.core.proof.CheckOutcome;
import app.granary.engine.bag.Bag;
import app.granary.engine.copy.BagCopy;
import app.granary.engine.shell.ShellNote;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(name = "copy", description = "Copies an image to another drive, and names the copy once every digest of it matches there.",
    mixinStandardHelpOptions = true)
final class CopyCommand implements Callable<Integer> {
    @Parameters(index = "0", paramLabel = "BAG", description = "the image's folder")
    Path bag;
    @Parameters(index = "1", paramLabel = "FOLDER", description = "an existing folder on the other drive")
    Path folder;
    @Mixin
    NoteOptions notes;
    @Mixin
    Output output;

    @Override
    public Integer call() throws IOException {
        long began = System.nanoTime();
        if (!Files.isDirectory(folder)) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, folder.toString(), folder + " is no folder. Name one on the other drive.")
                .asException();
        }
        CheckOutcome outcome;
        try (ProgressLine watch = output.watch()) {
            outcome = BagCopy.run(bag, folder, watch);
        }
        double seconds = (System.nanoTime() - began) / 1e9;
        Path copy = folder.resolve(bag.toAbsolutePath().normalize().getFileName());
        notes.note(output.err(), ShellNote.Did.COPY, copy, Bag.open(copy).content().description().disk(), outcome, seconds);
        PrintWriter out = output.out();
        if (output.json()) {
            Printed.json(out, fields -> {
                fields.writeStringField("bag", copy.toString());
                fields.writeNumberField("readBytes", outcome.readBytes());
                fields.writeStringField("checked", outcome.level().word());
                fields.writeNumberField("seconds", seconds);
            });
        } else {
            Printed.row(out, "copy", copy.toString());
            Printed.row(out, "checked", outcome.level().word() + ", " + Printed.size(outcome.readBytes()) + " read back");
            Printed.row(out, "took", String.format("%.1f s", seconds));
        }
        return 0;
    }
}
