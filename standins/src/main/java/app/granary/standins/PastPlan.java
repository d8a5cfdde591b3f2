package app.granary.standins;

/**
 * A plan that was in use before Granary was set up here.
 *
 * @param file    its plan file
 * @param daysAgo how long it has been in use, 0 or more
 */
public record PastPlan(String file, int daysAgo) {
}
