package app.granary.engine.restore;

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
 */
public record RestoreOutcome(long targetBytes, long writtenBytes, List<Problem> passedOver, List<Problem> differences, boolean compared) {
    public RestoreOutcome {
        passedOver = List.copyOf(passedOver);
        differences = List.copyOf(differences);
    }
}
