package app.granary.cli;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.proof.CheckOutcome;
import app.granary.engine.shell.ShellNote;
import app.granary.engine.shell.ShellNotes;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.time.Clock;
import picocli.CommandLine.Option;

/** Who did it, for the office: noted beside the image, and taken on there when its drive is attached. */
final class NoteOptions {
    @Option(names = "--by", paramLabel = "NAME", description = "who does it, for the office (default: this account's name)")
    private String by = System.getProperty("user.name", "");
    @Option(names = "--comment", paramLabel = "TEXT",
        description = "a comment on the image, for the office; a capture keeps it in the image too, readable without its passphrase")
    String comment = "";

    /** What cannot be noted, on a drive that may only be read, is said and ends nothing. */
    void note(PrintWriter err, ShellNote.Did did, Path bag, DiskIdentity disk, CheckOutcome outcome, double seconds) {
        Path image = bag.toAbsolutePath().normalize();
        try {
            ShellNotes.add(image.getParent(), new ShellNote(Clock.systemUTC().instant(), by, did, image.getFileName().toString(), disk,
                outcome.level(), outcome.ok(), outcome.readBytes(), seconds, comment));
        } catch (IOException readOnly) {
            err.println("granary: the office will not hear of this by itself, since nothing can be noted in " + image.getParent() + " ("
                + readOnly.getMessage() + ").");
            err.flush();
        }
    }
}
