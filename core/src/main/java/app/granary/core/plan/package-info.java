/**
 * What is to be imaged of which computer, how often, when, to where and how: {@link app.granary.core.plan.Plan}.
 * {@link app.granary.core.plan.PlanReview} reads one back in a sentence and names what is wrong; {@link app.granary.core.plan.DueDates}
 * tells its nights in the office's calendar. Nothing is null.
 */
package app.granary.core.plan;
