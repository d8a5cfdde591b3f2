package app.granary.engine.remote;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.destination.Destination;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Unfinished;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.Host;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.MachineHost;
import app.granary.engine.host.RemoteFolders;
import app.granary.engine.host.Storage;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Images are written, carried on, proven, copied and read over the way to another machine as on a drive; the system's tools judge. */
@Tag("large")
class RemoteTest {
    private static final Storage USUAL = new Storage(Codec.ZSTD, 1, OptionalLong.empty(), SurveyChoice.USED);
    private static final String THERE = "remote/there";
    private static final long NEVER = Long.MAX_VALUE;

    @TempDir
    Path folder;
    private Path office;
    private Host machine;
    private String disk;
    private String drive;
    private RemoteFolders.Folder served;
    private Optional<ServedFolder> open = Optional.empty();

    @BeforeEach
    void anOfficeAndAComputer() throws IOException {
        Path raw = Files.createDirectories(folder.resolve("disks"));
        Files.move(Medium.GPT_EXT4_AND_FAT.make(folder), raw.resolve("own.img"));
        Tools.run(raw, "head -c 200M /dev/urandom | dd of=own.img conv=notrunc bs=1M seek=8 status=none; truncate -s 220M own.img");
        office = Files.createDirectories(folder.resolve("office"));
        Files.createDirectories(office.resolve("granary-images"));
        machine = MachineHost.forAnOffice("TARN", raw, List.of(Files.createDirectories(folder.resolve("TRIPOD"))), Set.of(), id ->
            id.equals(THERE) ? Optional.of(served) : Optional.empty(), folder.resolve("scratch"), Clock.systemUTC());
        disk = machine.devices().computers().get(0).disks().stream().filter(each -> each.name().equals("own.img")).findFirst()
            .orElseThrow().id();
        drive = machine.store().destinations().stream().map(Destination::id).findFirst().orElseThrow();
    }

    private Cut serve(String image, Optional<ServedFolder.Gate> gate, long cutAfter) throws IOException {
        if (open.isPresent()) {
            open.get().close();
        }
        open = Optional.of(new ServedFolder(office, "granary-images", image, gate));
        Cut way = new Cut(open.get(), cutAfter);
        Path root = new RemoteFileSystem(way, "the office").root();
        served = new RemoteFolders.Folder(root, root.resolve("granary-images"));
        return way;
    }

    private static Optional<ServedFolder.Gate> open() {
        return Optional.of(() -> { });
    }

    @Test
    void anImageCrossesTheWayIsProvenOverThereAndComesBack() throws IOException {
        Cut way = serve("own", open(), NEVER);
        assertTrue(machine.imaging().capture(disk, THERE, "own", USUAL, Watch.NONE).check().ok());
        long stored = way.written.get();
        Path bag = office.resolve("granary-images/own");
        Tools.run(bag, "sha256sum -c manifest-sha256.txt && sha256sum -c tagmanifest-sha256.txt");
        Tools.run(bag, "zstd -t data/*zst*");
        assertTrue(way.read.get() < stored / 10, "what was written is read back over there: " + way.read.get());
        long before = way.read.get();
        assertTrue(machine.imaging().check(ImageAt.of(THERE, "own"), ProofLevel.READABLE, Watch.NONE).ok());
        assertEquals(before, way.read.get(), "a check sends no image over the way");

        serve("own", Optional.empty(), NEVER);
        assertTrue(machine.imaging().copy(ImageAt.of(THERE, "own"), drive, Watch.NONE).ok());
        Tools.run(folder, "diff -r office/granary-images/own TRIPOD/granary-images/own");
        Fault readOnly = assertThrows(FaultException.class,
            () -> machine.imaging().capture(disk, THERE, "own", USUAL, Watch.NONE)).fault();
        assertTrue(readOnly.sentence().length() > 10, readOnly.sentence());
    }

    @Test
    void whatTheCutLeftIsCarriedOnFromTheLastWholeFrame() throws IOException {
        Cut whole = serve("whole", open(), NEVER);
        machine.imaging().capture(disk, THERE, "whole", USUAL, Watch.NONE);
        long stored = whole.written.get();
        Random lots = new Random(11);
        for (int round = 0; round < 3; round++) {
            String name = "cut" + round;
            long cut = (long) (stored * (0.05 + 0.9 * lots.nextDouble()));
            serve(name, open(), cut);
            assertThrows(IOException.class, () -> machine.imaging().capture(disk, THERE, name, USUAL, Watch.NONE));
            assertFalse(Files.exists(office.resolve("granary-images").resolve(name)), "nothing partial has an image's name");
            Cut again = serve(name, open(), NEVER);
            assertEquals(List.of(name), Unfinished.in(office.resolve("granary-images")).stream().map(each -> each.name().text()).toList());
            assertTrue(machine.imaging().carryOn(disk, ImageAt.of(THERE, name), Watch.NONE).check().ok());
            Tools.run(office.resolve("granary-images").resolve(name), "sha256sum -c manifest-sha256.txt && zstd -t data/*zst*");
            assertTrue(again.written.get() < stored - cut + (64 << 20), again.written.get() + " again of " + stored + ", cut at " + cut);
        }
    }

    @Test
    void aFullOfficeStopsTheCaptureWithItsSentence() throws IOException {
        serve("own", Optional.of(() -> {
            throw Fault.of(Fault.Kind.NO_ROOM, "office", "The office has no room left.").asException();
        }), NEVER);
        assertEquals("The office has no room left.", assertThrows(FaultException.class,
            () -> machine.imaging().capture(disk, THERE, "own", USUAL, Watch.NONE)).fault().sentence());
        assertEquals(0, office.resolve("granary-images").toFile().list().length);
    }

    /** A rogue computer: every path that is not of the image it was let to is refused, and nothing outside is touched. */
    @Test
    void nothingButTheImageIsReachedWhateverIsAskedFor() throws IOException {
        Files.writeString(folder.resolve("secret"), "secret");
        Files.createDirectories(office.resolve("granary-images/other"));
        Files.writeString(office.resolve("granary-images/other/bagit.txt"), "x");
        Files.createDirectories(office.resolve("granary-images/own.partial"));
        Files.createSymbolicLink(office.resolve("granary-images/own.partial/out"), folder);
        try (ServedFolder there = new ServedFolder(office, "granary-images", "own", open())) {
            for (String path : List.of("../secret", "granary-images/../../secret", "granary-images/own/../../../secret", "/etc/passwd",
                "granary-images/other/bagit.txt", "granary-images/own.partial/out/secret", "granary-images/own.partial/./x",
                "granary-images//own/x", "granary-images/own.partial/a\\b", "granary-images/own.partial/a\u0000b",
                "granary-images/own.partial/" + "x".repeat(256), "secret", "granary-images/own2/x")) {
                assertThrows(FaultException.class, () -> there.read(path, 0, 1), path);
                assertThrows(FaultException.class, () -> there.open(path, RemoteFiles.Open.MADE), path);
                assertThrows(FaultException.class, () -> there.write(path, 0, new byte[1]), path);
                assertThrows(FaultException.class, () -> there.delete(path), path);
                assertThrows(FaultException.class, () -> there.move(path, "granary-images/own.partial/y", true), path);
                assertThrows(FaultException.class, () -> there.move("granary-images/own.partial/y", path, true), path);
                assertThrows(FaultException.class, () -> there.makeFolder(path), path);
                assertThrows(FaultException.class, () -> there.lock(path), path);
            }
            String mine = "granary-images/own.partial/x";
            there.open(mine, RemoteFiles.Open.NEW);
            assertThrows(FaultException.class, () -> there.write(mine, 5, new byte[1]), "behind a gap");
            assertThrows(FaultException.class, () -> there.write(mine, -1, new byte[1]));
            assertThrows(FaultException.class, () -> there.write(mine, 0, new byte[RemoteFiles.MOST + 1]));
            assertThrows(FaultException.class, () -> there.read(mine, 0, Integer.MAX_VALUE));
            assertThrows(FaultException.class, () -> there.read(mine, Long.MIN_VALUE, 1));
        }
        assertEquals("secret", Files.readString(folder.resolve("secret")));
        assertEquals("x", Files.readString(office.resolve("granary-images/other/bagit.txt")));
    }
}
