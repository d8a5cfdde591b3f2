package app.granary.core.proof;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.FilesHit;
import app.granary.core.filesystem.FilesOn;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.core.image.BadStretch;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/**
 * The files of one partition of an image or a disk that lie on damage.
 *
 * @param partition which one, in words
 * @param hit       their names, as far as they can be told
 */
public record LostFiles(String partition, FilesHit hit) {
    /**
     * The files of a disk that lie on what could not be read of it.
     *
     * @param source the disk; what cannot be read of it reads as zeros
     * @param bad    in order
     */
    public static List<LostFiles> on(BlockSource source, DiskSurvey survey, List<BadStretch> bad) throws IOException {
        List<LostFiles> out = new ArrayList<>();
        for (SurveyedPartition each : survey.partitions()) {
            long start = each.partition().startBytes();
            long end = each.partition().endBytes();
            Extents.Builder within = new Extents.Builder();
            bad.stream().filter(stretch -> stretch.startBytes() < end && stretch.endBytes() > start)
                .forEach(stretch -> within.add(Math.max(start, stretch.startBytes()) - start, Math.min(end, stretch.endBytes()) - start));
            Extents damaged = within.build();
            if (!damaged.isEmpty() && !each.partition().container()) {
                out.add(new LostFiles(each.partition().label(), FilesOn.find(source, start, end - start, damaged)));
            }
        }
        return out;
    }
}
