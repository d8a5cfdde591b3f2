package app.granary.core.estimate;

import java.util.List;

/**
 * What an image will weigh, all of it: frames, index, manifests.
 *
 * @param usedBytes        bytes that will be read
 * @param sampledBytes     of those, how many were read and compressed for this estimate
 * @param lowBytes         lower end of the 90 % interval
 * @param likelyBytes      the single best figure
 * @param highBytes        upper end
 * @param basis            what it rests on
 * @param overheadBytes    empty chunks, index, manifests: computed, not estimated; contained in the three figures
 * @param strata           the sample, kind by kind; empty when no sample was needed
 * @param standardError    bytes
 * @param degreesOfFreedom effective degrees of freedom of the interval; infinite when all was read
 */
public record SizeEstimate(long usedBytes, long sampledBytes, long lowBytes, long likelyBytes, long highBytes, Basis basis, long overheadBytes,
                           List<Stratum> strata, double standardError, double degreesOfFreedom) {

    /** What an estimate can rest on. */
    public enum Basis {
        /** Chunks of this disk were drawn by chance and compressed with the chosen codec. */
        SAMPLE,
        /** Every used chunk was compressed: the figure is exact. */
        COUNTED,
        /** Nothing had to be compressed: the codec keeps every byte. */
        EXACT;

        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }

    public SizeEstimate {
        strata = List.copyOf(strata);
    }

    public static SizeEstimate of(List<Stratum> strata, long usedBytes, long sampledBytes, long overheadBytes) {
        StratifiedTotal total = StratifiedTotal.of(strata);
        boolean all = strata.stream().allMatch(s -> s.stored().size() == s.chunks());
        return new SizeEstimate(usedBytes, sampledBytes, (long) Math.floor(total.low()) + overheadBytes, Math.round(total.likely()) + overheadBytes,
            (long) Math.ceil(total.high()) + overheadBytes, all ? Basis.COUNTED : Basis.SAMPLE, overheadBytes, strata, total.standardError(),
            total.degreesOfFreedom());
    }
}
