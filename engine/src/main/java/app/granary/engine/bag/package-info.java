/**
 * The image on its destination: one folder, a BagIt 1.0 bag (RFC 8493) that standard tools can check and restore; docs/format.md is the
 * full text. Nothing is null. Start with {@link app.granary.engine.bag.BagWriter} and {@link app.granary.engine.bag.Bag}.
 */
package app.granary.engine.bag;
