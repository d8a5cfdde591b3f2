package app.granary.core.target;

import java.util.List;

/**
 * A target after a look at what is on it. Only this can be confirmed: a list of targets reads nothing of them.
 *
 * @param holds what is on it, a line each, for people; never empty
 */
public record TargetLook(TargetDisk disk, List<String> holds) {
    public TargetLook {
        holds = List.copyOf(holds);
    }
}
