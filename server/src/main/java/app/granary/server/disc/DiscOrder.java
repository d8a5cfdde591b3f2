package app.granary.server.disc;

/**
 * @param disc which blank discs there are, as {@link app.granary.core.destination.Disc#label} has it
 * @param iso  whether an ISO 9660 image of each is made too
 */
record DiscOrder(String disc, boolean iso) {
}
