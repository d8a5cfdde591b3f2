package app.granary.core.plan;

/**
 * Something wrong with a plan.
 *
 * @param field    the part of the plan it concerns, as on the wire
 * @param refused  whether the plan cannot be saved like this; otherwise it is a warning
 * @param sentence what is wrong and what to do
 */
public record PlanProblem(String field, boolean refused, String sentence) {
}
