package app.granary.core.inventory;

/**
 * A disk of the inventory.
 *
 * @param id       its identity in the inventory
 * @param computer name of the computer it is in
 */
public record KnownDisk(String id, String computer, DiskReport disk) {
}
