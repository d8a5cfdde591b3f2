package app.granary.server.computer;

import app.granary.server.working.Working;

/** What an image of a disk that is not at hand would weigh. */
public interface LearntSizes {
    /** @param working how the figures came about */
    record Learnt(String basis, long lowBytes, long likelyBytes, long highBytes, Working working) {
    }

    /**
     * @param usedBytes what would be read
     * @param dense     whether it is known to be ciphertext
     */
    Learnt of(String diskId, long usedBytes, long sizeBytes, boolean dense);
}
