package app.granary.standins;

import app.granary.core.disk.Extents;
import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.estimate.Stratum;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.FileSystem;
import app.granary.core.filesystem.Gap;
import app.granary.core.filesystem.LeftOut;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.core.image.BadStretch;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.core.image.DiskInside;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereFile;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.progress.Progress;
import app.granary.engine.host.ImageFacts;
import app.granary.engine.host.HostImage;
import app.granary.engine.restore.RestoreOutcome;
import java.util.List;
import java.util.OptionalLong;

/**
 * Turns real sizes into those the office goes by.
 *
 * @param factor how many bytes one real byte stands for, 1 or more
 */
record Scale(long factor) {

    DiskSurvey of(DiskSurvey survey, String name) {
        return new DiskSurvey(name, survey.sizeBytes() * factor, survey.sectorBytes(), of(survey.table()),
            survey.partitions().stream().map(this::of).toList(),
            survey.gaps().stream().map(g -> new Gap(g.startBytes() * factor, g.sizeBytes() * factor, g.holds())).toList(),
            of(survey.toRead()), survey.choice());
    }

    PartitionTable of(PartitionTable table) {
        if (table instanceof PartitionTable.Gpt gpt) {
            return new PartitionTable.Gpt(gpt.diskGuid(), gpt.firstUsableLba(), gpt.lastUsableLba() * factor, gpt.entryCount(),
                gpt.partitions().stream().map(this::of).toList(), gpt.remarks());
        }
        return table instanceof PartitionTable.Mbr mbr
            ? new PartitionTable.Mbr(mbr.diskSignature(), mbr.partitions().stream().map(this::of).toList()) : table;
    }

    private Partition of(Partition p) {
        return new Partition(p.number(), p.startBytes() * factor, p.sizeBytes() * factor, p.type(), p.name(), p.uuid(), p.attributes(),
            p.container());
    }

    private SurveyedPartition of(SurveyedPartition each) {
        return new SurveyedPartition(of(each.partition()), of(each.fileSystem()), of(each.toRead()),
            each.leftOut().stream().map(this::of).toList());
    }

    private LeftOut of(LeftOut each) {
        return new LeftOut(each.path(), each.what(), of(each.ranges()));
    }

    private FileSystem of(FileSystem fileSystem) {
        if (fileSystem instanceof FileSystem.Mapped m) {
            return new FileSystem.Mapped(m.kind(), m.blockBytes() * factor, m.usedBlocks(), m.freeBlocks(), of(m.toRead()),
                m.leftOut().stream().map(this::of).toList());
        }
        if (fileSystem instanceof FileSystem.Whole whole && whole.usedBytes().isPresent()) {
            return new FileSystem.Whole(whole.kind(), whole.reason(), OptionalLong.of(whole.usedBytes().getAsLong() * factor));
        }
        return fileSystem instanceof FileSystem.Swap swap ? new FileSystem.Swap(swap.headerBytes() * factor, swap.sizeBytes() * factor)
            : fileSystem;
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
        return new SizeEstimate(e.usedBytes() * factor, e.sampledBytes(), e.lowBytes() * factor, e.likelyBytes() * factor,
            e.highBytes() * factor, e.basis(),
            e.overheadBytes() * factor, e.strata().stream().map(s -> new Stratum(s.name(), s.chunks() * factor, s.stored())).toList(),
            e.standardError() * factor, e.degreesOfFreedom());
    }

    CheckOutcome of(CheckOutcome check) {
        List<Problem> problems = check.problems().stream()
            .map(p -> new Problem(p.part(), p.offsetBytes(), p.lengthBytes(), p.partition(), p.diskStartBytes() * factor,
                p.diskEndBytes() * factor, p.message()))
            .toList();
        return new CheckOutcome(check.level(), problems, check.lost(), check.readBytes() * factor);
    }

    List<BadStretch> of(List<BadStretch> bad) {
        return bad.stream().map(each -> new BadStretch(each.startBytes() * factor, each.sizeBytes() * factor)).toList();
    }

    HostImage of(HostImage made) {
        return new HostImage(made.location(), made.storedBytes() * factor, made.rawBytes() * factor, made.usedBytes() * factor,
            of(made.badSectors()), made.lacks(), of(made.check()));
    }

    ImageFacts of(ImageFacts facts) {
        return new ImageFacts(facts.sizeBytes() * factor, facts.encrypted(), facts.lacks(),
            facts.partitions().stream().map(p -> new ImageFacts.Stretch(p.number(), p.startBytes() * factor,
                p.sizeBytes() * factor, p.readBytes() * factor, p.label(), p.fileSystem(), p.held(), p.density())).toList(),
            of(facts.badSectors()),
            facts.parts().stream().map(p -> new ImageFacts.File(p.name(), p.bytes() * factor, p.digest())).toList());
    }

    ElsewhereImage of(ElsewhereImage image) {
        return image.with(image.files().stream().map(f -> new ElsewhereFile(f.name(), f.bytes() * factor, f.digest(), f.source())).toList(),
            of(image.inside()));
    }

    /** Back to the bytes that lie there. */
    ElsewhereImage real(ElsewhereImage image) {
        DiskInside inside = image.inside();
        List<Partition> partitions = inside.partitions().stream()
            .map(p -> new Partition(p.number(), p.startBytes() / factor, p.sizeBytes() / factor, p.type(), p.name(), p.uuid(),
                p.attributes(),
                p.container()))
            .toList();
        return image.with(image.files().stream().map(f -> new ElsewhereFile(f.name(), f.bytes() / factor, f.digest(), f.source())).toList(),
            new DiskInside(inside.sizeBytes().isPresent() ? OptionalLong.of(inside.sizeBytes().getAsLong() / factor) : inside.sizeBytes(),
                inside.scheme(), inside.tableId(), partitions, inside.serial(), inside.remark()));
    }

    private DiskInside of(DiskInside inside) {
        return new DiskInside(of(inside.sizeBytes()), inside.scheme(), inside.tableId(),
            inside.partitions().stream().map(this::of).toList(), inside.serial(), inside.remark());
    }

    OptionalLong of(OptionalLong bytes) {
        return bytes.isPresent() ? OptionalLong.of(bytes.getAsLong() * factor) : bytes;
    }

    ElsewhereCheck.Result of(ElsewhereCheck.Result result) {
        return new ElsewhereCheck.Result(of(result.outcome()), result.digests(), of(result.contentBytes()), result.note());
    }

    Progress of(Progress p) {
        return new Progress(p.stage(), p.doneBytes() * factor, p.totalBytes() * factor, p.storedBytes() * factor);
    }

    /** @param targetBytes of the disk it was written onto, as the office knows it */
    RestoreOutcome of(RestoreOutcome real, long targetBytes) {
        return new RestoreOutcome(targetBytes, real.writtenBytes() * factor, onDisk(real.passedOver()), onDisk(real.differences()),
            real.compared(), of(real.unread()), real.lost(), real.lengths());
    }

    private List<Problem> onDisk(List<Problem> problems) {
        return problems.stream().map(p -> new Problem(p.part(), p.offsetBytes(), p.lengthBytes(), p.partition(),
            p.diskStartBytes() * factor, p.diskEndBytes() * factor, p.message())).toList();
    }
}
