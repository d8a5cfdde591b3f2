package app.granary.engine.site;

import app.granary.core.estimate.SizeEstimate;

/**
 * A size estimate and how fast the sample could be compressed.
 *
 * @param compressRateBytes raw bytes per second, on all processors, measured while sampling
 */
public record SiteEstimate(SizeEstimate size, long compressRateBytes) {
}
