package app.granary.server.check;

import app.granary.core.fault.Fault;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.LostFiles;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.server.queue.Run;
import java.io.IOException;

/** What a check found, in words. */
public final class Proven {
    private Proven() {
    }

    static String meaningElsewhere(ProofLevel level, ElsewhereImage image) {
        return switch (level) {
            case COMPLETE -> "complete: all its files are there and have the length they had";
            case SOUND -> "sound: every byte of it matches its digest";
            default -> "readable: all of it unpacks"
                + (image.inside().scheme().equals("none") ? "" : ", and the partition table in it is the one it was added with");
        };
    }

    /** As a clause after "is". */
    public static String meaning(ProofLevel level) {
        return switch (level) {
            case COMPLETE -> "complete: all parts are there and have the right length";
            case SOUND -> "sound: every stored byte matches its digest";
            case READABLE -> "sound and readable: every digest matches and every frame decodes";
            case REHEARSED -> "rehearsed: it was restored to a scratch file, which is what was read of the disk";
            case BOOTED -> "booted";
        };
    }

    /** @throws app.granary.core.fault.FaultException when damage was found, with the first of it and how many files lie on it */
    public static void require(Run run, CheckOutcome outcome) throws IOException {
        if (!outcome.ok()) {
            long files = outcome.lost().stream().map(LostFiles::hit).mapToLong(hit -> hit.count()).sum();
            String lost = files == 0 ? "" : " " + files + (files == 1 ? " file lies" : " files lie") + " on it.";
            throw Fault.of(Fault.Kind.DAMAGED, run.imageName(), outcome.problems().get(0).message() + lost).asException();
        }
    }
}
