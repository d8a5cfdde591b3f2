package app.granary.engine.sample;

import app.granary.core.estimate.SizeEstimate;

/**
 * What a sample showed.
 *
 * @param compressRateBytes raw bytes per second all processors compress, from the processor time the sample took; so that work beside it
 *                          does not count
 */
public record Sample(SizeEstimate size, long compressRateBytes) {
}
