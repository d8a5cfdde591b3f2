/**
 * What computers and disks an office has, as reports say and as it is known, and what a new report would change. Nothing is null: what a
 * report does not say is an empty string or an empty optional. Sizes are bytes. Start with
 * {@link app.granary.core.inventory.InventoryReview}.
 */
package app.granary.core.inventory;
