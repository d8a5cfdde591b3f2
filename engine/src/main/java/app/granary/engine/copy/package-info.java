/**
 * Images as copies of each other: one is copied to another destination, and a damaged one is repaired from a sound one. Nothing is null.
 * Start with {@link app.granary.engine.copy.BagCopy} and {@link app.granary.engine.copy.Repair}.
 */
package app.granary.engine.copy;
