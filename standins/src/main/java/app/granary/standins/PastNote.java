package app.granary.standins;

/**
 * What was said of a destination before Granary was set up here.
 *
 * @param rotation       the group it is swapped within, or an empty string
 * @param sharedLink     a name that destinations on one shared link have in common, or an empty string
 * @param health         what is known of its health, or an empty string
 * @param leavesBuilding whether it is ever taken out of the building
 */
public record PastNote(String destinationId, String rotation, String sharedLink, String health, boolean leavesBuilding) {
}
