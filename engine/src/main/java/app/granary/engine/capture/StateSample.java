package app.granary.engine.capture;

import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.engine.bag.FrameIndex;
import app.granary.engine.codec.Chunks;
import java.util.SortedSet;
import java.util.TreeSet;

/**
 * Chunks by which it is told whether a disk is still in the state it was read in: the first and the last of the disk, where its tables lie;
 * the first of each partition, which mounting alone changes; and a few spread over what was read.
 */
final class StateSample {
    /** One in so many, at least a few, and never more than tell anything. */
    private static final int ONE_IN = 100;
    private static final int FEWEST = 8;
    private static final int MOST = 64;

    private StateSample() {
    }

    /** When all has been read. Only chunks the index has. */
    static SortedSet<Long> atTheEnd(DiskSurvey survey, FrameIndex index) {
        return chunks(survey, index, Math.max(FEWEST, Math.min(MOST, index.rows() / ONE_IN)));
    }

    /**
     * Before a capture is carried on: enough to refuse a disk that was used since before it is read on. What these miss, the look at the
     * end finds.
     */
    static SortedSet<Long> beforeCarryingOn(DiskSurvey survey, FrameIndex index) {
        return chunks(survey, index, FEWEST / 2);
    }

    private static SortedSet<Long> chunks(DiskSurvey survey, FrameIndex index, int spread) {
        SortedSet<Long> out = new TreeSet<>();
        out.add(0L);
        out.add(Chunks.count(survey.sizeBytes()) - 1);
        for (SurveyedPartition partition : survey.partitions()) {
            out.add(partition.partition().startBytes() / Chunks.BYTES);
        }
        int count = Math.min(index.rows(), spread);
        for (int i = 0; i < count; i++) {
            out.add(index.firstChunk((int) ((long) i * index.rows() / count)));
        }
        return out.headSet(index.chunks());
    }
}
