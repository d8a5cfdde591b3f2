/**
 * The inventory: computers, disks and partitions, attached or reported, and how their used bytes went. Start with {@code Inventory}; what
 * is at hand comes in through {@code AttachedDisks}, reports through {@code ImportController}.
 */
package app.granary.server.computer;
