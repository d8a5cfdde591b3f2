package app.granary.engine.bag;

import app.granary.core.image.BadStretch;
import java.util.List;

/**
 * Where it is carried on.
 *
 * @param rows      of the log, those whose frames are kept
 * @param bad       sectors that could not be read, of those chunks
 * @param ended     parts that are complete
 * @param openBytes bytes kept of the part after those
 */
record UnfinishedCut(List<Unfinished.Row> rows, List<BadStretch> bad, List<ImageDescription.Part> ended, long openBytes) {
    FrameIndex index() {
        FrameIndex index = new FrameIndex();
        rows.forEach(row -> index.add(row.count(), row.storedBytes(), row.crc(), row.zeros()));
        return index;
    }
}
