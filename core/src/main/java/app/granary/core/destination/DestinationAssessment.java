package app.granary.core.destination;

import java.util.List;

/**
 * One destination weighed against one image.
 *
 * @param destination    the destination as it was
 * @param rules          every hard rule with its outcome
 * @param roomAfterBytes free bytes left above the reserve after the high estimate; negative by how much it is short
 * @param rank           1 for the first choice; 0 when it is not fit
 * @param rankSentence   why it stands where it stands; empty when it is not fit
 * @param rollBack       whether it lies on the very disk, on a partition that is left out: for a quick roll-back image and nothing else
 */
public record DestinationAssessment(Destination destination, List<RuleOutcome> rules, long roomAfterBytes, int rank, String rankSentence,
    boolean rollBack) {
    public DestinationAssessment {
        rules = List.copyOf(rules);
    }

    public boolean fit() {
        return rules.stream().allMatch(RuleOutcome::holds);
    }

    DestinationAssessment ranked(int place, String why) {
        return new DestinationAssessment(destination, rules, roomAfterBytes, place, why, rollBack);
    }
}
