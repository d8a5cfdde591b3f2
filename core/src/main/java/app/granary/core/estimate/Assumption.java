package app.granary.core.estimate;

import java.util.Locale;

/**
 * The last resort: how much an image keeps of what is read when nothing of the disk can be looked at. Common practice, no source: systems
 * and documents halve with a quick codec, media and ciphertext hardly shrink; therefore a wide range, from small to everything.
 *
 * @param codec  a codec's word
 * @param low    stored bytes for each byte read, at least
 * @param likely in the middle
 * @param high   at most
 */
public record Assumption(String codec, double low, double likely, double high) {

    /** @param codec {@code "zstd"}, {@code "gzip"}, {@code "xz"}, {@code "stored"} or {@code "none"} */
    public static Assumption of(String codec) {
        return switch (codec.toLowerCase(Locale.ROOT)) {
            case "none" -> new Assumption("none", 1, 1, 1);
            case "xz" -> new Assumption("xz", 0.30, 0.50, 1.01);
            case "gzip" -> new Assumption("gzip", 0.38, 0.58, 1.01);
            case "stored" -> new Assumption("stored", 0.9, 1.0, 1.01);
            default -> new Assumption("zstd", 0.35, 0.55, 1.01);
        };
    }

    /** Raw bytes per second a codec takes where nothing could be measured: two ordinary processor cores (common practice, no source). */
    public long compressRateBytes() {
        return switch (codec) {
            case "none", "stored" -> 2_000_000_000L;
            case "xz" -> 12_000_000L;
            case "gzip" -> 80_000_000L;
            default -> 300_000_000L;
        };
    }

    /** @param dense whether what is read is known to be ciphertext or the like, which does not shrink at all */
    public SizeEstimate estimate(long usedBytes, long diskBytes, boolean dense) {
        SizeEstimate.Overhead overhead = new SizeEstimate.Overhead(0, 0, 0);
        if (codec.equals("none")) {
            return SizeEstimate.exact(usedBytes, diskBytes, overhead);
        }
        double least = dense ? 1 : low;
        double middle = dense ? 1.005 : likely;
        return new SizeEstimate(usedBytes, 0, Math.round(usedBytes * least), Math.round(usedBytes * middle), Math.round(usedBytes * high),
            SizeEstimate.Basis.ASSUMED, 0,
            java.util.List.of(), 0, 0);
    }
}
