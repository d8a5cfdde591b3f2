package app.granary.engine.host;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionTables;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.Blank;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.FileSystem;
import app.granary.core.filesystem.FileSystems;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.measure.Sizes;
import app.granary.core.image.BadStretch;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.LostFiles;
import app.granary.core.proof.ProofLevel;
import app.granary.core.target.OverwriteRules;
import app.granary.core.target.TargetDisk;
import app.granary.core.target.TargetLook;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.capture.CarefulSource;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.DiskCopy;
import app.granary.engine.restore.Restore;
import app.granary.engine.restore.RestoreLog;
import app.granary.engine.restore.RestoreOutcome;
import app.granary.engine.restore.RestoreRequest;
import app.granary.engine.restore.RestoreTarget;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/** The engine's work of overwriting, as every host does it. */
public final class OverwriteWork {
    private OverwriteWork() {
    }

    /** Gives a folder for a scratch file of some length. */
    public interface Scratch {
        Path folder(long neededBytes) throws IOException;

        /** One for a layout; empty where it makes no file system smaller. */
        default Optional<Path> of(RestoreLayout layout) throws IOException {
            return layout.shrinks() ? Optional.of(folder(layout.scratchBytes())) : Optional.empty();
        }
    }

    /**
     * @param surveys where what is in the image is kept from the layout that was shown
     * @param scratch asked only where file systems are made smaller
     */
    public static RestoreOutcome write(Bag bag, Surveys surveys, LayoutTarget size, RestoreTarget target, LayoutChoice choice,
        Overwriting.How how, RestoreLog log, Scratch scratch, Watch watch) throws IOException {
        ImageJson.Content content = bag.content();
        bag.requireOpens(content.description());
        DiskSurvey survey = surveys.of(bag, content);
        RestoreLayout layout = RestoreLayout.of(survey, size, choice);
        RestoreRequest request = new RestoreRequest(survey, layout, how.zeroUnused(), true, how.checkFirst() && !how.carryOn(),
            how.acceptDamage(), Optional.of(log), how.carryOn(), how.onlyChanges(), scratch.of(layout));
        return Restore.run(bag, content, request, target, watch);
    }

    /** What of an image that other tools made is written: the partitions it does not hold are none of it. */
    public static SurveyChoice choice(ElsewhereImage image) {
        return new SurveyChoice(false, true, image.lacking().stream().map(Partition::number).collect(Collectors.toSet()));
    }

    /** @throws FaultException when it is not what it was when it was taken on */
    public static void requireSound(Path root, ElsewhereImage image, Watch watch) throws IOException {
        CheckOutcome found = ElsewhereCheck.run(root, image, ProofLevel.SOUND, watch).outcome();
        if (!found.ok()) {
            throw Fault.of(Fault.Kind.DAMAGED, image.name(), found.problems().get(0).message() + " Nothing was written.").asException();
        }
    }

    /**
     * @param of      what of the disk is written
     * @param scratch as above
     */
    public static RestoreOutcome copy(BlockSource disk, SurveyChoice of, LayoutTarget size, RestoreTarget target, LayoutChoice choice,
        Overwriting.How how,
        Scratch scratch, Watch watch) throws IOException {
        CarefulSource careful = new CarefulSource(disk);
        DiskSurvey survey = DiskSurvey.of(careful, of);
        RestoreLayout layout = RestoreLayout.of(survey, size, choice);
        RestoreOutcome outcome = DiskCopy.run(careful, survey, layout, target, new DiskCopy.How(how.zeroUnused(), true,
            how.onlyChanges(), scratch.of(layout)), watch);
        List<BadStretch> bad = careful.bad();
        return bad.isEmpty() ? outcome : outcome.unread(bad, lost(careful, survey, bad));
    }

    /** The files of a disk that lie on what could not be read of it. */
    private static List<LostFiles> lost(CarefulSource disk, DiskSurvey survey, List<BadStretch> bad) throws IOException {
        Extents.Builder damaged = new Extents.Builder();
        bad.forEach(each -> damaged.add(each.startBytes(), each.endBytes()));
        List<LostFiles> out = new ArrayList<>();
        for (SurveyedPartition each : survey.partitions()) {
            if (!each.partition().container()) {
                LostFiles.of(disk, each.partition().label(), each.partition().startBytes(), each.partition().endBytes(), damaged.build())
                    .ifPresent(out::add);
            }
        }
        return out;
    }

    /** @throws FaultException when what a person confirmed is not so any more; where it is, the target */
    public static TargetDisk require(Optional<TargetLook> there, Overwriting.Confirmed confirmed) throws IOException {
        TargetLook now = there.filter(each -> each.disk().attached()).orElseThrow(
            () -> Fault.of(Fault.Kind.NOT_RECOGNISED, confirmed.targetId(), OverwriteRules.gone(confirmed.identity())).asException());
        requireIdle(now.disk());
        requireAsConfirmed(now, confirmed);
        return now.disk();
    }

    static void requireIdle(TargetDisk now) throws IOException {
        if (!now.inUse().isEmpty()) {
            throw Fault.of(Fault.Kind.FORBIDDEN, now.name(), OverwriteRules.inUse(now)).asException();
        }
    }

    /** All but whether it is in use: a held target looks in use by its holder. */
    static void requireAsConfirmed(TargetLook now, Overwriting.Confirmed confirmed) throws IOException {
        List<String> against = OverwriteRules.another(now, confirmed.identity(), confirmed.holds());
        if (!against.isEmpty()) {
            throw Fault.of(Fault.Kind.FORBIDDEN, now.disk().name(), against.get(0)).asException();
        }
    }

    /** What is on a disk, a line each; "nothing" where it is blank. */
    public static List<String> holds(RawSource disk, long factor) {
        try {
            PartitionTable table = PartitionTables.read(disk);
            List<String> out = new ArrayList<>();
            if (table instanceof PartitionTable.Damaged) {
                return List.of("a partition table that cannot be read");
            }
            if (table.partitions().isEmpty()) {
                return List.of(withoutTable(disk, factor));
            }
            DiskSurvey survey = DiskSurvey.of(disk, SurveyChoice.USED);
            survey.partitions().stream().filter(each -> !each.partition().container())
                .forEach(each -> out
                    .add("partition " + each.partition().number() + ", " + Sizes.decimal(each.partition().sizeBytes() * factor) + ", "
                        + each.fileSystem().kind() + (each.partition().name().isEmpty() ? "" : ", \"" + each.partition().name() + "\"")
                        + (each.fileSystem().usedBytes().isPresent()
                            ? ", " + Sizes.decimal(each.fileSystem().usedBytes().getAsLong() * factor) + " in use" : "")));
            return out;
        } catch (IOException unreadable) {
            return List.of("something that cannot be read");
        }
    }

    /** A file system, a volume or a member of a set may fill a whole disk: without a table is not without content. */
    private static String withoutTable(RawSource disk, long factor) throws IOException {
        FileSystem found = FileSystems.probe(disk, 0, disk.sizeBytes());
        if (!found.kind().equals(FileSystems.UNKNOWN)) {
            return "no partition table; the whole disk is " + found.kind() + (found.usedBytes().isPresent() ? ", "
                + Sizes.decimal(found.usedBytes().getAsLong() * factor) + " in use" : "");
        }
        return Blank.startsBlank(disk) ? "nothing: it starts with zeros" : "no partition table, and data nobody can name";
    }
}
