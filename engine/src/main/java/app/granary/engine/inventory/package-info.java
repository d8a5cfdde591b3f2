/**
 * Reads what computers print of themselves: {@code lsblk --json -b -O}, {@code sfdisk --json} (util-linux), Granary's own documented JSON
 * ({@code inventory.schema.json}), and CSV (RFC 4180). Nothing is null. Start with {@link app.granary.engine.inventory.InventoryText}.
 */
package app.granary.engine.inventory;
