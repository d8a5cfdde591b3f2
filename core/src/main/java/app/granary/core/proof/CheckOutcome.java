package app.granary.core.proof;

import java.util.List;

/**
 * What a check of an image came to.
 *
 * @param level     how far up it was to be proven
 * @param problems  empty when the image is sound so far
 * @param lost      files that lie on damage, by partition; empty when there is no damage that was placed
 * @param readBytes stored bytes read for it
 */
public record CheckOutcome(ProofLevel level, List<Problem> problems, List<LostFiles> lost, long readBytes) {
    /** Without files lost. */
    public CheckOutcome(ProofLevel level, List<Problem> problems, long readBytes) {
        this(level, problems, List.of(), readBytes);
    }

    public CheckOutcome {
        problems = List.copyOf(problems);
        lost = List.copyOf(lost);
    }

    public boolean ok() {
        return problems.isEmpty();
    }
}
