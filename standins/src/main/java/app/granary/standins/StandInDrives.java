package app.granary.standins;

import app.granary.core.destination.Destination;
import app.granary.core.fault.Fault;
import app.granary.core.image.ImageName;
import app.granary.engine.host.RemoteFolders;
import app.granary.engine.release.Trash;
import app.granary.engine.source.Folders;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Stream;

/** The office's drives: each is a folder, with notes beside its images of how many bytes one of theirs stands for. */
final class StandInDrives {
    /**
     * Beside an image: how many bytes one of its bytes stands for. Outside the image's folder, which holds only what its manifest lists.
     */
    static final String SCALE_SUFFIX = ".scale";
    private static final String PAST_SUFFIX = ".past";
    /** Within so many bytes an image says which disk it is of. */
    private static final int TOLD_BYTES = 4096;

    private final Path root;
    private final StandInFaults faults;
    private final double quicker;
    private final RemoteFolders lent;

    /** @param lent drives of other machines */
    StandInDrives(Path root, StandInFaults faults, double quicker, RemoteFolders lent) throws IOException {
        this.lent = lent;
        this.root = root;
        this.faults = faults;
        this.quicker = quicker;
        for (StandInDrive drive : MarrowbySurveyOffice.DRIVES) {
            Files.createDirectories(root.resolve(drive.id()));
        }
    }

    /** At the pace the office runs. */
    long rate(long bytes) {
        return Math.max(1, (long) (bytes * quicker));
    }

    long writeRate(StandInDrive drive) {
        return faults.rate(drive.id(), rate(drive.writeRateBytes()));
    }

    Path folder(StandInDrive drive) {
        return lent.folder(drive.id()).map(RemoteFolders.Folder::images).orElseGet(() -> root.resolve(drive.id()));
    }

    /** One that is attached. */
    StandInDrive drive(String id) throws IOException {
        return attached(id).orElseThrow(
            () -> Fault.of(Fault.Kind.NOT_RECOGNISED, id, "The destination is not attached. Attach it and try again.").asException());
    }

    Optional<StandInDrive> attached(String id) {
        return MarrowbySurveyOffice.DRIVES.stream().filter(d -> d.id().equals(id) && isAttached(d)).findFirst()
            .or(() -> lent.folder(id).map(there -> StandInDrive.lent(id)));
    }

    private boolean isAttached(StandInDrive drive) {
        return drive.attached() && !faults.unplugged(drive.id());
    }

    /** By name. */
    List<Destination> destinations() throws IOException {
        List<Destination> out = new ArrayList<>();
        for (StandInDrive drive : MarrowbySurveyOffice.DRIVES) {
            long free = faults.full(drive.id()) ? 0
                : Math.max(0, drive.capacityBytes() - Math.max(0, drive.occupiedBytes() - pastBytes(drive.id())) - imageBytes(drive));
            out.add(new Destination(drive.id(), drive.name(), drive.place(), isAttached(drive), true, drive.capacityBytes(), free, 0,
                drive.fileLimitBytes() == 0 ? OptionalLong.empty() : OptionalLong.of(drive.fileLimitBytes()), writeRate(drive),
                Set.of(drive.diskSerial())));
        }
        out.sort(Comparator.comparing(Destination::name));
        return out;
    }

    /** Beside a drive's folder: how much of what always lay there is images of the past. */
    private long pastBytes(String driveId) throws IOException {
        Path note = root.resolve(driveId + PAST_SUFFIX);
        return Files.exists(note) ? Long.parseLong(Files.readString(note).strip()) : 0;
    }

    void layAsNote(String driveId, String name, long scale, long bytes) throws IOException {
        Note.write(note(root.resolve(driveId), name), scale + "\n");
        Note.write(root.resolve(driveId + PAST_SUFFIX), pastBytes(driveId) + bytes + "\n");
    }

    long imageBytes(StandInDrive drive) throws IOException {
        long sum = 0;
        try (Stream<Path> entries = Files.list(folder(drive))) {
            for (Path image : entries.filter(Files::isDirectory).toList()) {
                sum += image.endsWith(Trash.FOLDER) ? trashBytes(image, folder(drive)) : Folders.bytes(image) * scaleOf(image).factor();
            }
        }
        return sum;
    }

    /** What was released still takes its room; its note went with it, or lies where it lay. */
    private static long trashBytes(Path trash, Path drive) throws IOException {
        long sum = 0;
        try (Stream<Path> releases = Files.list(trash)) {
            for (Path release : releases.toList()) {
                try (Stream<Path> things = Files.list(release)) {
                    for (Path thing : things.filter(Files::isDirectory).toList()) {
                        Path lay = drive.resolve(thing.getFileName());
                        boolean noted = Files.exists(note(drive, thing.getFileName().toString()));
                        sum += Folders.bytes(thing) * scaleOf(noted ? lay : thing).factor();
                    }
                }
            }
        }
        return sum;
    }

    private static Path note(Path folder, String name) {
        return folder.resolve(name + SCALE_SUFFIX);
    }

    /** By the note beside an image, finished or not; without one, which a laptop cannot write, by the disk it says it is of. */
    static Scale scaleOf(Path image) throws IOException {
        String name = image.getFileName().toString();
        Path note = note(image.toAbsolutePath().getParent(),
            name.endsWith(ImageName.PARTIAL) ? name.substring(0, name.length() - ImageName.PARTIAL.length()) : name);
        return Files.exists(note) ? new Scale(Long.parseLong(Files.readString(note).strip())) : scaleToldBy(image);
    }

    /** True size for one that is of no disk of the office. */
    private static Scale scaleToldBy(Path image) throws IOException {
        Path log = image.resolveSibling(image.getFileName() + ".log");
        Path tells = Files.exists(log) ? log : image.resolve("bag-info.txt");
        if (!Files.exists(tells)) {
            return new Scale(1);
        }
        String text;
        try (InputStream in = Files.newInputStream(tells)) {
            text = new String(in.readNBytes(TOLD_BYTES), StandardCharsets.ISO_8859_1);
        }
        return MarrowbySurveyOffice.DISKS.stream().filter(disk -> text.contains(" " + disk.serial() + ",")
            || text.contains("\"" + disk.serial() + "\"")).findFirst().map(disk -> new Scale(disk.scale())).orElse(new Scale(1));
    }

    Scale scaleOf(String driveId, String name) throws IOException {
        return scaleOf(root.resolve(driveId).resolve(name));
    }

    /** Written before the image, so that an image never lies there without it; a name that is taken keeps its own. */
    void note(StandInDrive drive, String name, long factor) throws IOException {
        if (isOwn(drive) && isFree(drive, name)) {
            Note.write(note(folder(drive), ImageName.parse(name).text()), factor + "\n");
        }
    }

    /** Takes the note away of what is not there after all. */
    void tidy(StandInDrive drive, String name) throws IOException {
        if (isOwn(drive) && isFree(drive, name)) {
            Files.deleteIfExists(note(folder(drive), name));
        }
    }

    /** Nothing is laid beside an image on a drive of another machine. */
    private boolean isOwn(StandInDrive drive) {
        return lent.folder(drive.id()).isEmpty();
    }

    /** Names of the images on a drive. */
    List<String> images(StandInDrive drive) throws IOException {
        try (Stream<Path> entries = Files.list(folder(drive))) {
            return entries.filter(entry -> Files.isDirectory(entry.resolve("data")) && !entry.toString().endsWith(ImageName.PARTIAL))
                .map(entry -> entry.getFileName().toString()).sorted().toList();
        }
    }

    /** What goes and comes with an image. */
    static List<Path> besides(Path image) {
        return Stream.of(note(image.getParent(), image.getFileName().toString())).filter(Files::exists).toList();
    }

    /** Whether neither an image nor an unfinished capture has the name. */
    private boolean isFree(StandInDrive drive, String name) {
        return !Files.exists(folder(drive).resolve(name)) && !Files.exists(folder(drive).resolve(name + ImageName.PARTIAL));
    }
}
