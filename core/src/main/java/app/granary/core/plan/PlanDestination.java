package app.granary.core.plan;

/** A drive a plan may store on: its identity in this office, and its name, by which it is found again in another. */
public record PlanDestination(String id, String name) {
}
