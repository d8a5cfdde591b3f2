package app.granary.server.check;

import app.granary.core.proof.ProofLevel;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import app.granary.server.queue.NewRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunQueue;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/** Orders work on a copy of an image: a check, one more copy, a repair. */
@Component
public class CopyRuns {
    private final RunQueue queue;
    private final Images images;
    private final Journal journal;

    public CopyRuns(RunQueue queue, Images images, Journal journal) {
        this.queue = queue;
        this.images = images;
        this.journal = journal;
    }

    /** A run of a copy, as it is asked for. */
    public static NewRun of(Run.Kind kind, UUID copyId, Images.Shelved copy) {
        return NewRun
            .of(kind, new NewRun.About(copy.computer(), copy.diskId(), copy.disk(), copy.destinationId(), copy.destination()), copy.name())
            .ofCopy(copyId).expecting(copy.storedBytes(), 0, 0).encrypted(copy.encrypted());
    }

    /**
     * @param level    how far the copy is proven by it
     * @param low      whether it gives way to other work
     * @param sentence for the journal, with a place for the image's name and one for its destination's
     */
    public Run begin(Run.Kind kind, UUID copyId, ProofLevel level, Record order, Passphrase passphrase, boolean low, String who,
        String sentence) {
        Images.Shelved copy = images.shelved(copyId);
        requirePossible(kind, copy, level);
        if (kind != Run.Kind.COPY && copy.encrypted() && passphrase.isNone() && level.includes(ProofLevel.READABLE)) {
            throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "locked", "passphrase",
                copy.name() + " is encrypted. Enter its passphrase, or check it up to sound, which needs none.");
        }
        String subject = copy.computer() + " " + copy.disk();
        return queue.add(of(kind, copyId, copy).lowPriority(low), order, passphrase, who,
            () -> journal.add(who, kind.word(), subject, Journal.Result.BEGUN, String.format(sentence, copy.name(), copy.destination())));
    }

    private static void requirePossible(Run.Kind kind, Images.Shelved copy, ProofLevel level) {
        if (copy.format() == Images.Format.UNSEEN) {
            throw new Refused(HttpStatus.CONFLICT, "unseen", "", "The files of " + copy.name()
                + " were never seen; it is a line from a paper log. Attach what they lie on and add them as an image made elsewhere.");
        }
        if (copy.format() == Images.Format.OTHER && kind != Run.Kind.CHECK) {
            throw new Refused(HttpStatus.CONFLICT, "other-format", "",
                copy.name() + " was made with other tools. Copy its files with them, and add the copy as an image made elsewhere.");
        }
        if (copy.format() == Images.Format.OTHER && level.includes(ProofLevel.REHEARSED)) {
            throw new Refused(HttpStatus.CONFLICT, "other-format", "level", copy.name()
                + " was made with other tools and has no index of its chunks to compare a rehearsal with. Check it up to readable.");
        }
    }
}
