package app.granary.core.destination;

/**
 * One hard rule, applied.
 *
 * @param rule         stable word: {@code "not-itself"}, {@code "attached"}, {@code "room"}, {@code "file-size"}, {@code "encrypted"},
 *                     {@code "may-use"}
 * @param holds        whether it is kept
 * @param askedBytes   the figure that had to fit, or 0 when the rule compares none
 * @param allowedBytes the figure it had to fit into, or 0
 * @param sentence     the outcome in words
 */
public record RuleOutcome(String rule, boolean holds, long askedBytes, long allowedBytes, String sentence) {
}
