package app.granary.cli;

import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.copy.Repair;
import app.granary.engine.host.ImageWork;
import app.granary.engine.shell.ShellNote;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "repair", aliases = "mend",
    description = "Repairs a damaged image from a sound copy of it. Exit 0: sound, 1: damaged still.",
    mixinStandardHelpOptions = true)
final class RepairCommand implements Callable<Integer> {
    @Parameters(index = "0", paramLabel = "BAG", description = "the damaged image's folder")
    Path bag;
    @Option(names = "--from", paramLabel = "COPY", required = true, description = "the folder of a sound copy of the same image")
    Path sound;
    @Mixin
    PassphraseOption secret;
    @Mixin
    NoteOptions notes;
    @Mixin
    Output output;

    @Override
    public Integer call() throws IOException {
        long began = System.nanoTime();
        Repair.Repaired repaired;
        try (ProgressLine watch = output.watch()) {
            repaired = ImageWork.repair(bag, secret.passphrase(), sound, ProofLevel.READABLE, watch);
        }
        notes.note(output.err(), ShellNote.Did.REPAIR, bag, Bag.open(sound).content().description().disk(), repaired.check(),
            (System.nanoTime() - began) / 1e9);
        PrintWriter out = output.out();
        if (output.json()) {
            Printed.json(out, fields -> {
                fields.writeBooleanField("ok", repaired.check().ok());
                fields.writeNumberField("writtenBytes", repaired.writtenBytes());
                fields.writeStringField("checked", repaired.check().level().word());
            });
        } else {
            Printed.row(out, "image", bag.toString());
            Printed.row(out, "written", Printed.size(repaired.writtenBytes()) + " where it differed from " + sound);
            Printed.row(out, repaired.check().ok() ? "sound" : "damaged", "checked to: " + repaired.check().level().word());
            repaired.check().problems().forEach(problem -> Printed.row(out, "", problem.message()));
        }
        return repaired.check().ok() ? 0 : 1;
    }
}
