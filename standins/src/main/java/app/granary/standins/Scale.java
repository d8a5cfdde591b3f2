package app.granary.standins;

import app.granary.core.disk.Extents;
import app.granary.core.disk.Partition;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.estimate.Stratum;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.FileSystem;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.core.proof.CheckOutcome;
import app.granary.engine.progress.Progress;

/**
 * Turns real sizes into those the office goes by.
 *
 * @param factor how many bytes one real byte stands for, 1 or more
 */
record Scale(long factor) {

    DiskSurvey of(DiskSurvey survey, String name) {
        if (factor == 1) {
            return new DiskSurvey(name, survey.sizeBytes(), survey.sectorBytes(), survey.table(), survey.partitions(), survey.toRead(), survey.allBlocks());
        }
        return new DiskSurvey(name, survey.sizeBytes() * factor, survey.sectorBytes(), survey.table(), survey.partitions().stream().map(this::of).toList(),
            of(survey.toRead()), survey.allBlocks());
    }

    private SurveyedPartition of(SurveyedPartition each) {
        Partition p = each.partition();
        Partition scaled = new Partition(p.number(), p.startBytes() * factor, p.sizeBytes() * factor, p.type(), p.name(), p.uuid(), p.attributes(), p.container());
        FileSystem fileSystem = each.fileSystem() instanceof FileSystem.Mapped m
            ? new FileSystem.Mapped(m.kind(), m.blockBytes() * factor, m.usedBlocks(), m.freeBlocks(), of(m.toRead())) : each.fileSystem();
        return new SurveyedPartition(scaled, fileSystem, of(each.toRead()));
    }

    private Extents of(Extents extents) {
        Extents.Builder out = new Extents.Builder();
        for (int i = 0; i < extents.count(); i++) {
            out.add(extents.start(i) * factor, extents.end(i) * factor);
        }
        return out.build();
    }

    /** Chunk counts scale, stored bytes of a sampled chunk do not: a chunk stays 1 MiB. */
    SizeEstimate of(SizeEstimate e) {
        return new SizeEstimate(e.usedBytes() * factor, e.sampledBytes(), e.lowBytes() * factor, e.likelyBytes() * factor, e.highBytes() * factor, e.basis(),
            e.overheadBytes() * factor, e.strata().stream().map(s -> new Stratum(s.name(), s.chunks() * factor, s.stored())).toList(),
            e.standardError() * factor, e.degreesOfFreedom());
    }

    CheckOutcome of(CheckOutcome check) {
        return new CheckOutcome(check.depth(), check.problems(), check.readBytes() * factor);
    }

    Progress of(Progress p) {
        return new Progress(p.stage(), p.doneBytes() * factor, p.totalBytes() * factor, p.storedBytes() * factor);
    }
}
