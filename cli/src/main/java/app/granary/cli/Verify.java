package app.granary.cli;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.proof.ProofLevel;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.LostFiles;
import app.granary.core.proof.Problem;
import app.granary.engine.bag.Bag;
import app.granary.engine.host.ImageWork;
import app.granary.engine.shell.ShellNote;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "verify", description = "Checks an image. Exit 0: sound, 1: damaged, 2: could not be checked.",
    mixinStandardHelpOptions = true)
final class Verify implements Callable<Integer> {
    @Parameters(index = "0", paramLabel = "BAG", description = "the image's folder")
    Path bag;
    @Option(names = "--level", paramLabel = "LEVEL", defaultValue = "readable",
        description = "complete, sound, readable or rehearsed (default: ${DEFAULT-VALUE})")
    ProofLevel level;
    @Option(names = "--scratch", paramLabel = "FOLDER", defaultValue = "/tmp",
        description = "where a rehearsal restores to (default: ${DEFAULT-VALUE})")
    Path scratch;
    @Mixin
    PassphraseOption secret;
    @Mixin
    NoteOptions notes;
    @Mixin
    Output output;

    @Override
    public Integer call() throws IOException {
        if (level == ProofLevel.BOOTED) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, bag.toString(),
                "That an image was booted is signed by the person who looked, not measured. Choose complete, sound, readable or rehearsed.")
                .asException();
        }
        long began = System.nanoTime();
        CheckOutcome outcome;
        try (ProgressLine watch = output.watch()) {
            outcome = ImageWork.check(bag, secret.passphrase(), level, scratch, watch);
        }
        identity().ifPresent(disk -> notes.note(output.err(), ShellNote.Did.CHECK, bag, disk, outcome,
            (System.nanoTime() - began) / 1e9));
        PrintWriter out = output.out();
        if (output.json()) {
            json(out, outcome);
        } else {
            rows(out, outcome);
        }
        return outcome.ok() ? 0 : 1;
    }

    /** Of the disk; empty where the image is too damaged to say. */
    private Optional<DiskIdentity> identity() throws IOException {
        try {
            return Optional.of(Bag.open(bag).content().description().disk());
        } catch (FaultException damaged) {
            return Optional.empty();
        }
    }

    private static void json(PrintWriter out, CheckOutcome outcome) throws IOException {
        Printed.json(out, fields -> {
            fields.writeBooleanField("ok", outcome.ok());
            fields.writeStringField("level", outcome.level().word());
            fields.writeArrayFieldStart("problems");
            for (Problem problem : outcome.problems()) {
                fields.writeStartObject();
                fields.writeStringField("part", problem.part());
                fields.writeNumberField("offsetBytes", problem.offsetBytes());
                fields.writeNumberField("lengthBytes", problem.lengthBytes());
                fields.writeStringField("partition", problem.partition());
                fields.writeNumberField("diskStartBytes", problem.diskStartBytes());
                fields.writeNumberField("diskEndBytes", problem.diskEndBytes());
                fields.writeStringField("message", problem.message());
                fields.writeEndObject();
            }
            fields.writeEndArray();
            fields.writeArrayFieldStart("files");
            for (LostFiles lost : outcome.lost()) {
                for (String path : lost.hit().paths()) {
                    fields.writeString(lost.partition() + ": " + path);
                }
            }
            fields.writeEndArray();
        });
    }

    private void rows(PrintWriter out, CheckOutcome outcome) {
        Printed.row(out, "image", bag.toString());
        Printed.row(out, outcome.ok() ? "sound" : "damaged",
            "checked to: " + outcome.level().word() + ", " + Printed.size(outcome.readBytes()) + " read");
        outcome.problems().forEach(problem -> Printed.row(out, "", problem.message()));
        for (LostFiles lost : outcome.lost()) {
            Printed.row(out, "files", lost.hit().count() + " on damage in " + lost.partition()
                + (lost.hit().note().isEmpty() ? "" : ". " + lost.hit().note()));
            lost.hit().paths().forEach(path -> Printed.row(out, "", path));
        }
    }
}
