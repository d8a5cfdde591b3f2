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
 * @param overheadBytes    empty chunks, index, manifests, as contained in the likely figure
 * @param strata           the sample, kind by kind; empty when no sample was needed
 * @param standardError    bytes
 * @param degreesOfFreedom effective degrees of freedom of the interval; infinite when all was read
 */
public record SizeEstimate(long usedBytes, long sampledBytes, long lowBytes, long likelyBytes, long highBytes, Basis basis,
    long overheadBytes,
    List<Stratum> strata, double standardError, double degreesOfFreedom) {

    /** What an estimate can rest on. */
    public enum Basis {
        /** Chunks of this disk were drawn by chance and compressed with the chosen codec. */
        SAMPLE,
        /** Every used chunk was compressed: the figure is exact. */
        COUNTED,
        /** Nothing had to be compressed: the codec keeps every byte. */
        EXACT,
        /** The disk's own earlier images. */
        HISTORY,
        /** A table of what is usual, for a disk that cannot be looked at. */
        ASSUMED;

        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }

    /** A part's line in the manifest and its row in the description, at least and at most, by the length of its name and of its size. */
    private static final int PART_LEAST = 120;
    private static final int PART_MOST = 160;
    /** Bytes of a packet's piece, and what a message takes besides, at least and at most. */
    private static final int PIECE = 1 << 16;
    private static final int MESSAGE_LEAST = 60;
    private static final int MESSAGE_MOST = 512;

    public SizeEstimate {
        strata = List.copyOf(strata);
    }

    /**
     * What comes on top of the frames that hold content.
     *
     * @param emptyFrameBytes frames of chunks without content: exact
     * @param leastIndexBytes index, manifests and description, at least
     * @param mostIndexBytes  the same at most; how many digits offsets have is not known before
     */
    public record Overhead(long emptyFrameBytes, long leastIndexBytes, long mostIndexBytes) {
        long likely() {
            return emptyFrameBytes + (leastIndexBytes + mostIndexBytes) / 2;
        }
    }

    /** From a sample, or from all chunks when the strata hold all of them. */
    public static SizeEstimate of(List<Stratum> strata, long usedBytes, long sampledBytes, Overhead overhead) {
        StratifiedTotal total = StratifiedTotal.of(strata);
        boolean all = strata.stream().allMatch(s -> s.stored().size() == s.chunks());
        return new SizeEstimate(usedBytes, sampledBytes,
            (long) Math.floor(total.low()) + overhead.emptyFrameBytes + overhead.leastIndexBytes,
            Math.round(total.likely()) + overhead.likely(),
            (long) Math.ceil(total.high()) + overhead.emptyFrameBytes + overhead.mostIndexBytes,
            all ? Basis.COUNTED : Basis.SAMPLE, overhead.likely(), strata, total.standardError(), total.degreesOfFreedom());
    }

    /**
     * The same image in parts: each takes a line of the manifest and a row of the description. A part ends early for a frame that would not
     * fit, but is then more than half full.
     *
     * @param splitBytes longest part, more than 0
     */
    public SizeEstimate inParts(long splitBytes) {
        long fewest = lowBytes / splitBytes;
        long most = 2 * (highBytes / splitBytes) + 2;
        long likely = likelyBytes / splitBytes * PART_MOST;
        return new SizeEstimate(usedBytes, sampledBytes, lowBytes + fewest * PART_LEAST, likelyBytes + likely, highBytes + most * PART_MOST,
            basis, overheadBytes + likely,
            strata, standardError, degreesOfFreedom);
    }

    /**
     * The same image, each part of it an OpenPGP message (RFC 9580): a key, headers and a digest a message, and a length byte or two for
     * each piece of its two packets.
     *
     * @param splitBytes longest part, more than 0; of the estimate in parts already, if it is in parts
     */
    public SizeEstimate encrypted(long splitBytes) {
        long least = lowBytes / PIECE * 2 + Math.max(1, lowBytes / splitBytes) * MESSAGE_LEAST;
        long most = (highBytes / PIECE + 1) * 4 + (2 * (highBytes / splitBytes) + 2) * MESSAGE_MOST;
        long likely = likelyBytes / PIECE * 2 + Math.max(1, likelyBytes / splitBytes) * (MESSAGE_LEAST + MESSAGE_MOST) / 2;
        return new SizeEstimate(usedBytes, sampledBytes, lowBytes + least, likelyBytes + likely, highBytes + most, basis,
            overheadBytes + likely, strata, standardError,
            degreesOfFreedom);
    }

    /** For a codec that keeps every byte of the disk. */
    public static SizeEstimate exact(long usedBytes, long diskBytes, Overhead overhead) {
        return new SizeEstimate(usedBytes, 0, diskBytes + overhead.leastIndexBytes, diskBytes + overhead.likely(),
            diskBytes + overhead.mostIndexBytes,
            Basis.EXACT, overhead.likely(), List.of(), 0, Double.POSITIVE_INFINITY);
    }
}
