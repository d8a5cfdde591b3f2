package app.granary.standins;

import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.Digests;
import app.granary.engine.bag.ImageDescription;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.bag.ImageJsonWriter;
import app.granary.engine.bag.Manifest;
import app.granary.engine.capture.CarefulSource;
import app.granary.engine.codec.Codec;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.host.ImageWork;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.Storage;
import app.granary.engine.source.Folders;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.TreeMap;
import java.util.stream.Stream;

/**
 * Images of the last months. Each disk is captured once, really, and read back; an image of another day is that one with its own date and
 * name, its frames being the same files under another name. The disks of the made-up office do not change between the days.
 */
final class PastImages implements PastWork {
    private static final int LEVEL = 1;

    private final StandInDrives notes;
    private final Path disks;
    private final Path drives;
    private final Path once;
    private final MovedClock clock;

    /** @param once where each disk's one capture is kept, for this office and others to come */
    PastImages(StandInDrives notes, Path disks, Path drives, Path once, MovedClock clock) {
        this.notes = notes;
        this.disks = disks;
        this.drives = drives;
        this.once = once;
        this.clock = clock;
    }

    /** Captures every disk that was not captured yet. */
    static void prepare(Path disks, Path once, Clock clock) throws IOException {
        for (StandInDisk disk : MarrowbySurveyOffice.DISKS) {
            captured(disk, disks, once, clock);
        }
    }

    private static Path captured(StandInDisk disk, Path disks, Path once, Clock clock) throws IOException {
        Path folder = Files.createDirectories(once);
        Path bag = folder.resolve(disk.id());
        if (!Files.exists(bag)) {
            Folders.delete(folder.resolve(disk.id() + ".partial"));
            Storage storage = new Storage(Codec.ZSTD, LEVEL, OptionalLong.empty(), SurveyChoice.USED);
            try (RawSource source = RawSource.open(Templates.disk(disk, disks))) {
                ImageWork.capture(new CarefulSource(source), disk.identity().withSize(source.sizeBytes()), storage, disk.id(), folder,
                    clock,
                    Watch.NONE);
            }
        }
        return bag;
    }

    @Override
    public void moveTo(Instant moment) {
        clock.moveTo(moment);
    }

    @Override
    public void endPast() {
        clock.moveBack();
    }

    @Override
    public HostImage image(String diskId, String destinationId, String name) throws IOException {
        StandInDisk disk = MarrowbySurveyOffice.DISKS.stream().filter(each -> each.id().equals(diskId)).findFirst().orElseThrow();
        Path bag = captured(disk, disks, once, clock);
        Path made = dated(bag, drives.resolve(destinationId), name, clock.instant().truncatedTo(ChronoUnit.SECONDS).toString());
        ImageJson.Content content = new Bag(made, Passphrase.NONE).content();
        ImageDescription d = content.description();
        long bytes = Folders.bytes(made);
        notes.layAsNote(destinationId, name, disk.scale(), bytes * disk.scale());
        return new HostImage(destinationId + ", folder " + name, bytes * disk.scale(), d.disk().sizeBytes() * disk.scale(),
            d.usedBytes() * disk.scale(), List.of(), d.lacks(),
            new CheckOutcome(ProofLevel.READABLE, List.of(), bytes * disk.scale()));
    }

    private static Path dated(Path bag, Path drive, String name, String madeAt) throws IOException {
        Path partial = drive.resolve("." + name);
        Folders.delete(partial);
        Path data = Files.createDirectories(partial.resolve("data"));
        Manifest before = new Bag(bag, Passphrase.NONE).manifest(Bag.MANIFEST);
        Map<String, String> payload = new TreeMap<>(before.digests());
        long octets = 0;
        for (String path : before.digests().keySet()) {
            Path file = partial.resolve(path);
            if (path.equals("data/image.json")) {
                ImageJson.Content content = new Bag(bag, Passphrase.NONE).content();
                try (OutputStream out = Files.newOutputStream(data.resolve("image.json"))) {
                    ImageJsonWriter.write(out, content.description().named(name, madeAt), content.index());
                }
                payload.put(path, Digests.of(file));
            } else {
                link(file, bag.resolve(path));
            }
            octets += Files.size(file);
        }
        Map<String, String> tags = new TreeMap<>();
        String info = Files.readString(bag.resolve("bag-info.txt"))
            .replaceAll("(?m)^Bagging-Date: .*$", "Bagging-Date: " + madeAt.substring(0, 10))
            .replaceAll("(?m)^External-Identifier: .*$", "External-Identifier: " + name)
            .replaceAll("(?m)^Payload-Oxum: .*$", "Payload-Oxum: " + octets + "." + payload.size());
        for (Map.Entry<String, String> each : Map
            .of("bag-info.txt", info, "bagit.txt", Files.readString(bag.resolve("bagit.txt")), Bag.MANIFEST, new Manifest(payload).text())
            .entrySet()) {
            Files.writeString(partial.resolve(each.getKey()), each.getValue());
            tags.put(each.getKey(), Digests.of(partial.resolve(each.getKey())));
        }
        Files.writeString(partial.resolve(Bag.TAG_MANIFEST), new Manifest(tags).text());
        return Files.move(partial, drive.resolve(name), StandardCopyOption.ATOMIC_MOVE);
    }

    /** A second name for the same bytes; a copy where the file system knows no second names. */
    private static void link(Path file, Path to) throws IOException {
        try {
            Files.createLink(file, to);
        } catch (UnsupportedOperationException | IOException cannot) {
            Files.copy(to, file, StandardCopyOption.REPLACE_EXISTING);
        }
    }

    @Override
    public void copy(String name, String fromDestinationId, String toDestinationId) throws IOException {
        Path from = drives.resolve(fromDestinationId).resolve(name);
        Path to = drives.resolve(toDestinationId).resolve("." + name);
        Folders.delete(to);
        try (Stream<Path> files = Files.walk(from)) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                Path copy = to.resolve(from.relativize(file).toString());
                Files.createDirectories(copy.getParent());
                link(copy, file);
            }
        }
        Files.move(to, drives.resolve(toDestinationId).resolve(name), StandardCopyOption.ATOMIC_MOVE);
        long scale = notes.scaleOf(fromDestinationId, name).factor();
        notes.layAsNote(toDestinationId, name, scale, Folders.bytes(from) * scale);
    }

    @Override
    public CheckOutcome check(String destinationId, String name) throws IOException {
        Path bag = drives.resolve(destinationId).resolve(name);
        return notes.scaleOf(destinationId, name).of(ImageWork.check(bag, Passphrase.NONE, ProofLevel.SOUND, disks, Watch.NONE));
    }

    @Override
    public void spoil(String destinationId, String name) throws IOException {
        Path data = drives.resolve(destinationId).resolve(name).resolve("data");
        Path part;
        try (Stream<Path> files = Files.list(data)) {
            part = files.filter(file -> file.getFileName().toString().startsWith("disk.img")).sorted().findFirst().orElseThrow();
        }
        StandInFaults.turnBit(part, Files.size(part) / 2);
    }

    /** Before a file is changed: other images that have the same bytes under their own names must not change with it. */
    static void ownBytes(Path file) throws IOException {
        Path own = file.resolveSibling("." + file.getFileName());
        Files.copy(file, own, StandardCopyOption.REPLACE_EXISTING);
        Files.move(own, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }
}
