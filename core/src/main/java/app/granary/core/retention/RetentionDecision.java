package app.granary.core.retention;

/**
 * What becomes of one copy of an image.
 *
 * @param id   of the copy
 * @param rule the first that applies, in the order of {@link Rule}
 * @param why  the rule with its figures, as a sentence
 */
public record RetentionDecision(String id, Rule rule, String why) {
    public boolean kept() {
        return rule.keeps();
    }

    /** In the order they are asked; the first that keeps an image decides. */
    public enum Rule {
        HELD, IN_USE, NEWEST_PROVEN, NOTHING_PROVEN, LAST, DAILY, WEEKLY, MONTHLY, YEARLY, EVERY, YOUNG,
        /** Older than the policy lets any stay. */
        TOO_OLD,
        /** No rule keeps it. */
        NOT_NEEDED;

        public boolean keeps() {
            return compareTo(TOO_OLD) < 0;
        }

        /** The word on the wire. */
        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
        }
    }
}
