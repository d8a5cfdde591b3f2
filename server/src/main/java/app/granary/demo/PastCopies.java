package app.granary.demo;

import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.server.check.Checks;
import app.granary.server.check.CopyRuns;
import app.granary.server.image.ImageRecords;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.PastRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.Took;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Writes down checks and copies of the office's past. */
@Component
class PastCopies {
    private final PastRun past;
    private final Images images;
    private final ImageRecords imageRecords;
    private final Journal journal;

    PastCopies(PastRun past, Images images, ImageRecords imageRecords, Journal journal) {
        this.past = past;
        this.images = images;
        this.imageRecords = imageRecords;
        this.journal = journal;
    }

    /** A check that was really made, on the bytes as they are. */
    void checked(UUID copyId, CheckOutcome outcome, ProofLevel level, String who) {
        Images.Shelved copy = images.shelved(copyId);
        LiveRun run = past.begun(CopyRuns.of(Run.Kind.CHECK, copyId, copy).lowPriority(true), Checks.order(level), who);
        imageRecords.recordCheck(copyId, outcome, 0, who);
        if (outcome.ok()) {
            past.ended(run, Run.State.DONE, "Image " + copy.name() + " on " + copy.destination() + " is " + level.word() + ".",
                Took.NOTHING, false);
        } else {
            past.foundDamage(run);
            past.ended(run, Run.State.FAILED,
                copy.name() + " on " + copy.destination() + " is damaged: " + outcome.problems().get(0).message(), Took.NOTHING, false);
        }
    }

    void copied(UUID of, String destinationId, CheckOutcome outcome, String who) throws IOException {
        Images.Shelved image = images.shelved(of);
        String destination = images.destinationName(destinationId);
        UUID copy = imageRecords.recordCopy(of, destinationId, destination, outcome, who);
        journal.add(who, "copy", image.computer() + " " + image.disk(), Journal.Result.DONE,
            "Image " + image.name() + " copied from " + image.destination() + " to " + destination + ": every digest of the copy matches.",
            Journal.Facts.of(List.of(image.serial(), destinationId), Map.of("storedBytes", image.storedBytes()), "/images/" + copy));
    }
}
