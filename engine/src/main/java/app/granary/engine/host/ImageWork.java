package app.granary.engine.host;

import app.granary.core.image.Lacks;
import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.BagWriter;
import app.granary.engine.bag.Begun;
import app.granary.engine.bag.ImageDescription;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.bag.ImageSource;
import app.granary.engine.bag.Unfinished;
import app.granary.engine.capture.Capture;
import app.granary.engine.capture.CaptureRequest;
import app.granary.engine.capture.CaptureResult;
import app.granary.engine.capture.CarefulSource;
import app.granary.engine.codec.Chunks;
import app.granary.engine.copy.Repair;
import app.granary.engine.disc.DiscFolders;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.elsewhere.ElsewhereScan;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.BootRehearsal;
import app.granary.engine.restore.Rehearsal;
import app.granary.engine.sample.Sample;
import app.granary.engine.sample.SampleGoal;
import app.granary.engine.sample.SizeSampler;
import app.granary.engine.source.Folders;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.Stream;

/** The engine's work on one opened disk, as every site does it. */
public final class ImageWork {
    private static final String DISCS = "granary-discs";

    private static final Duration BOOT_PATIENCE = Duration.ofSeconds(60);
    /** As many as can be told apart on a page. */
    private static final int SLICES = 96;

    private ImageWork() {
    }

    public static HostEstimate estimate(BlockSource source, Storage storage, SampleGoal goal, Watch watch) throws IOException {
        DiskSurvey survey = DiskSurvey.of(source, storage.choice());
        Sample sample = SizeSampler.sample(source, survey, storage.codec(), storage.level(), seed(survey), goal, watch);
        SizeEstimate size = storage.splitBytes().isPresent() ? sample.size().inParts(storage.splitBytes().getAsLong()) : sample.size();
        long message = storage.splitBytes().orElse(BagWriter.ENCRYPTED_SPLIT);
        SizeEstimate encrypted = sample.size().inParts(message).encrypted(message);
        return new HostEstimate(size, encrypted, sample.compressRateBytes(), sample.compressRateBytes(), OptionalLong.empty());
    }

    /** The same disk, untouched, gives the same estimate twice; another disk, or the same one changed, is drawn from anew. */
    private static long seed(DiskSurvey survey) {
        return survey.sizeBytes() * 31 + survey.usedBytes();
    }

    /** A survey of a disk that may have bad sectors, in which they are zeros: what cannot be made out then is read whole. */
    private static DiskSurvey survey(BlockSource source, SurveyChoice choice) throws IOException {
        return DiskSurvey.of(new CarefulSource(source), choice);
    }

    public static CaptureResult carryOn(BlockSource source, DiskIdentity identity, Path folder, String name, Passphrase passphrase,
        Clock clock, Watch watch) throws IOException {
        Unfinished unfinished = Unfinished.open(folder, ImageName.parse(name));
        return Capture.carryOn(source, survey(source, unfinished.begun().choice()), identity, unfinished, passphrase, clock, watch);
    }

    public static CaptureResult capture(BlockSource source, DiskIdentity identity, Storage storage, String name, Path folder, Clock clock,
        Watch watch) throws IOException {
        DiskSurvey survey = survey(source, storage.choice());
        return Capture.run(source, survey,
            new CaptureRequest(ImageName.parse(name), storage.codec(), storage.level(), storage.splitBytes(), storage.passphrase(),
                identity, storage.comment(), true),
            folder, clock, watch);
    }

    /** Captures in a folder that did not come to their end. */
    public static List<HostUnfinished> unfinished(Path folder) throws IOException {
        List<HostUnfinished> out = new ArrayList<>();
        for (Unfinished each : Unfinished.in(folder)) {
            Begun begun = each.begun();
            out.add(new HostUnfinished(each.name().text(), begun.disk(), begun.begunAt(), each.storedBytes(),
                Math.min(1, (double) each.chunks() / Math.max(1, Chunks.count(begun.disk().sizeBytes()))), begun.encrypted(),
                new Storage(begun.codec(), begun.level(), begun.splitBytes(), begun.choice()).commented(begun.comment()), true));
        }
        for (ImageName name : Unfinished.remains(folder)) {
            out.add(HostUnfinished.remains(name.text(), Folders.bytes(folder.resolve(name.text() + ImageName.PARTIAL))));
        }
        return out;
    }

    /** Scratch of rehearsals and of drives being prepared. */
    public static void sweep(Path scratch) throws IOException {
        if (!Files.isDirectory(scratch)) {
            return;
        }
        List<Path> left;
        try (Stream<Path> entries = Files.list(scratch)) {
            left = entries.filter(each -> each.getFileName().toString().matches("(rehearsal|prepare|granary-scratch)-[0-9]+")
                && Files.isDirectory(each, LinkOption.NOFOLLOW_LINKS)).toList();
        }
        for (Path each : left) {
            Folders.delete(each);
        }
    }

    /** @param scratch where a rehearsal restores to */
    public static CheckOutcome check(Path bag, Passphrase passphrase, ProofLevel level, Path scratch, Watch watch) throws IOException {
        Bag image = Bag.open(bag, passphrase);
        return level == ProofLevel.REHEARSED ? Rehearsal.run(image, scratch, watch)
            : Verification.run(image, level, watch);
    }

    public static ImageFacts facts(Path folder) throws IOException {
        Bag bag = Bag.open(folder);
        ImageJson.Content content = bag.content();
        ImageDescription d = content.description();
        Map<String, String> digests = digests(bag);
        return new ImageFacts(d.disk().sizeBytes(), d.encrypted(), d.lacks(),
            d.partitions().stream().map(p -> new ImageFacts.Stretch(p.number(), p.startBytes(), p.sizeBytes(), p.readBytes(),
                p.label(), p.fileSystem(), !d.lacking().contains(p.number()),
                content.index().density(p.startBytes(), p.sizeBytes(), SLICES))).toList(),
            d.badSectors(),
            d.parts().stream().map(p -> new ImageFacts.File(p.name(), p.storedBytes(), digests.getOrDefault("data/" + p.name(), "")))
                .toList());
    }

    private static Map<String, String> digests(Bag bag) throws IOException {
        try {
            return bag.manifest(Bag.MANIFEST).digests();
        } catch (FaultException damaged) {
            return Map.of();
        }
    }

    /**
     * @param own where Granary keeps its images below that root; one of its format there has an empty folder, as {@link ImageAt} has it
     */
    public static ElsewhereScan.Found elsewhere(Path root, Path own, String folder, Watch watch) throws IOException {
        ElsewhereScan.Found found = ElsewhereScan.in(root, folder, watch);
        String ownFolder = root.relativize(own).toString().replace(java.io.File.separatorChar, '/');
        return new ElsewhereScan.Found(
            found.images().stream()
                .map(each -> each.kind() == ElsewhereImage.Kind.GRANARY && each.folder().equals(ownFolder) ? each.in("") : each).toList(),
            found.all());
    }

    /** Where an image in Granary's format lies. */
    public static Path bag(Path root, Path own, ImageAt image) throws IOException {
        String name = ImageName.parse(image.name()).text();
        return image.folder().isEmpty() ? own.resolve(name) : ElsewhereScan.within(root, image.folder()).resolve(name);
    }

    public static Repair.Repaired repair(Path damaged, Passphrase passphrase, Path sound, ProofLevel level, Watch watch)
        throws IOException {
        return Repair.run(new Bag(damaged, passphrase), sound, level, watch);
    }

    public static HostImage made(CaptureResult result, String location) throws IOException {
        Lacks lacks = Bag.open(result.bag()).content().description().lacks();
        return new HostImage(location, result.storedBytes(), result.rawBytes(), result.usedBytes(), result.badSectors(), lacks,
            result.check().orElseThrow());
    }

    /** Starts an image for practice, in a machine with the firmware that its table is for. */
    public static Imaging.Started start(Bag bag) throws IOException {
        boolean uefi = bag.content().description().scheme().equals("gpt");
        try (ImageSource image = ImageSource.forMany(bag)) {
            return new Imaging.Started(Optional.of(BootRehearsal.run(image, uefi, BOOT_PATIENCE)), "");
        } catch (FaultException cannot) {
            return new Imaging.Started(Optional.empty(), cannot.getMessage());
        }
    }

    /** Lays an image out for discs beside it, in a folder of their own on its drive; with {@code iso}, all of them or none. */
    public static List<String> discs(Path bag, Path root, long discBytes, boolean iso, Watch watch) throws IOException {
        Path folder = Files.createDirectories(root.resolve(DISCS));
        List<Path> made = DiscFolders.make(Bag.open(bag), folder, discBytes, iso, watch);
        return made.stream().map(each -> DISCS + "/" + each.getFileName()).toList();
    }
}
