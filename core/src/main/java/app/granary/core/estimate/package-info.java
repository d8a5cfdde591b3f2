/**
 * How big an image will be, honestly: low, likely and high bytes, and what they rest on. Pure arithmetic; the sample itself is drawn and
 * compressed by the engine. Nothing is null. Start with {@link app.granary.core.estimate.StratifiedTotal}.
 */
package app.granary.core.estimate;
