package app.granary.engine.host;

import app.granary.core.estimate.SizeEstimate;
import java.util.OptionalLong;

/**
 * A size estimate and how fast the disk was read and compressed for it.
 *
 * @param encryptedSize          the same when it is encrypted
 * @param compressRateBytes      raw bytes per second, on all processors, measured while sampling
 * @param clockCompressRateBytes the same as an office by the clock would see it; differs only where devices are made up
 * @param readRateBytes          bytes per second by a short read test; empty where none was made, and the link's usual rate has to do
 */
public record HostEstimate(SizeEstimate size, SizeEstimate encryptedSize, long compressRateBytes, long clockCompressRateBytes,
    OptionalLong readRateBytes) {
    /** Of a real device that was not read for it, in one part. */
    public HostEstimate(SizeEstimate size, long compressRateBytes) {
        this(size, size.encrypted(Long.MAX_VALUE), compressRateBytes, compressRateBytes, OptionalLong.empty());
    }

    /** The same when it is encrypted. */
    public HostEstimate encrypted() {
        return new HostEstimate(encryptedSize, encryptedSize, compressRateBytes, clockCompressRateBytes, readRateBytes);
    }

    /** The same with a rate of reading. */
    public HostEstimate reading(OptionalLong rate) {
        return new HostEstimate(size, encryptedSize, compressRateBytes, clockCompressRateBytes, rate);
    }
}
