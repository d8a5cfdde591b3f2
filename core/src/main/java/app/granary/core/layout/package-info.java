/**
 * How the partitions of an image are laid onto a target of another size. Start with {@link app.granary.core.layout.RestoreLayout#of}. Pure;
 * all refusals are gathered and told with their figures, and nothing is null.
 */
package app.granary.core.layout;
