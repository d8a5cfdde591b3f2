package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.disk.PartitionTable;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/** One disk, or a file that is to be one, onto another disk, by the rules of a restore. */
public final class DiskCopy {
    private DiskCopy() {
    }

    /**
     * How it is written.
     *
     * @param zeroUnused  whether what is not in use is written as zeros
     * @param compare     whether all is read back and compared
     * @param onlyChanges whether the target is read first, and only what differs is written
     * @param scratch     a folder in which file systems are made smaller; empty where the layout makes none smaller
     */
    public record How(boolean zeroUnused, boolean compare, boolean onlyChanges, Optional<Path> scratch) {
        public static How of(boolean zeroUnused, boolean compare) {
            return new How(zeroUnused, compare, false, Optional.empty());
        }
    }

    /** Used blocks of a disk, laid out anew. */
    public static RestoreOutcome run(BlockSource source, DiskSurvey survey, RestoreLayout layout, RestoreTarget target, How how,
        Watch watch) throws IOException {
        TargetWork.How written = new TargetWork.How(how.zeroUnused, how.compare, false, false, Optional.empty(), false, how.onlyChanges);
        DiskChunks disk = new DiskChunks(source, survey.toRead());
        if (!layout.shrinks()) {
            return Growing.written(disk, layout, written, target, watch);
        }
        try (Shrinking shrunk = Shrinking.of(disk, source, survey, layout, how.scratch, Overlay.Shows.NOTHING, watch)) {
            return Growing.written(shrunk.chunks(nothing -> { }), layout, written, target, watch);
        }
    }

    /** Every byte of a file as it is, such as an ISO; what a table of the target's past left at its end goes. */
    public static RestoreOutcome bytes(BlockSource source, long targetBytes, RestoreTarget target, boolean compare, Watch watch)
        throws IOException {
        if (source.sizeBytes() > targetBytes) {
            throw Fault.of(Fault.Kind.NO_ROOM, source.name(), source.name() + " is " + (source.sizeBytes() - targetBytes)
                + " bytes longer than the target. Use a larger one. Nothing was written.").asException();
        }
        Extents all = Extents.range(0, source.sizeBytes());
        return new TargetWork(new DiskChunks(source, all), plain(source, all, targetBytes), TargetWork.How.of(true, compare), watch)
            .onto(target);
    }

    /** Everything where it is, on a target of some length, whatever tables there are. */
    static RestoreLayout plain(BlockSource source, Extents used, long targetBytes) {
        DiskSurvey survey = new DiskSurvey(source.name(), source.sizeBytes(), source.sectorBytes(), new PartitionTable.Absent(), List.of(),
            List.of(), used, SurveyChoice.ALL_BLOCKS);
        return RestoreLayout.of(survey, LayoutTarget.blank(targetBytes, source.sectorBytes(), Firmware.UNKNOWN), LayoutChoice.KEEP);
    }
}
