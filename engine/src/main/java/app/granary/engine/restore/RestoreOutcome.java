package app.granary.engine.restore;

import app.granary.core.image.BadStretch;
import app.granary.core.proof.LostFiles;
import app.granary.core.proof.Problem;
import java.util.List;

/**
 * How a restore ended.
 *
 * @param targetBytes  the target's length
 * @param writtenBytes written to it
 * @param passedOver   damaged stretches of the image that are zeros on the target; empty unless that was accepted
 * @param differences  what reading back found to differ; at most 100
 * @param compared     whether it was read back
 * @param unread       what of a disk that was copied could not be read: zeros on the target, and no comparison tells them from what was
 *                     there; usually empty
 * @param lost         files that lie on it
 * @param lengths      what came of file systems whose length changed, a sentence each
 */
public record RestoreOutcome(long targetBytes, long writtenBytes, List<Problem> passedOver, List<Problem> differences, boolean compared,
    List<BadStretch> unread, List<LostFiles> lost, List<String> lengths) {
    public RestoreOutcome {
        passedOver = List.copyOf(passedOver);
        differences = List.copyOf(differences);
        unread = List.copyOf(unread);
        lost = List.copyOf(lost);
        lengths = List.copyOf(lengths);
    }

    /** Of an image, or of a disk that could be read throughout. */
    RestoreOutcome(long targetBytes, long writtenBytes, List<Problem> passedOver, List<Problem> differences, boolean compared) {
        this(targetBytes, writtenBytes, passedOver, differences, compared, List.of(), List.of(), List.of());
    }

    /** The same, of a disk that could not be read throughout. */
    public RestoreOutcome unread(List<BadStretch> bad, List<LostFiles> files) {
        return new RestoreOutcome(targetBytes, writtenBytes, passedOver, differences, compared, bad, files, lengths);
    }

    RestoreOutcome lengths(List<String> sentences) {
        return new RestoreOutcome(targetBytes, writtenBytes, passedOver, differences, compared, unread, lost, sentences);
    }

    public long unreadBytes() {
        return unread.stream().mapToLong(BadStretch::sizeBytes).sum();
    }
}
