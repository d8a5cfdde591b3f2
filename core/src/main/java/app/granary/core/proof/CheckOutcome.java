package app.granary.core.proof;

import java.util.List;

/**
 * What a check of an image came to.
 *
 * @param depth     how deep it went
 * @param problems  empty when the image is sound so far
 * @param readBytes stored bytes read for it
 */
public record CheckOutcome(CheckDepth depth, List<Problem> problems, long readBytes) {
    public CheckOutcome {
        problems = List.copyOf(problems);
    }

    public boolean ok() {
        return problems.isEmpty();
    }
}
