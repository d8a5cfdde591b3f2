package app.granary.engine.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Window;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.layout.LayoutChoice;
import app.granary.engine.bag.Bag;
import app.granary.engine.media.Damaged;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.Folders;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What the system's tools wrote into a disk that they see as a file is what is read of it afterwards, by sha256sum and cmp. */
class OverlayTest extends RestoreFixture {
    private static final int BYTES = (5 << 20) + 3 * 512;

    private Path scratch;

    @BeforeEach
    void shown() throws IOException {
        scratch = Files.createDirectories(folder.resolve("scratch, \"folder\""));
        assumeTrue(Files.isWritable(Path.of("/dev/fuse")), "no FUSE here");
        Tools.run(folder, "head -c " + BYTES + " /dev/urandom > disk.img; sha256sum disk.img > disk.sum");
    }

    private Overlay over(BlockSource disk) throws IOException {
        return Overlay.over(disk, scratch, "shown").orElseThrow();
    }

    private void requireNothingLeft() throws IOException {
        Folders.delete(scratch);
        assertEquals("", Tools.run(folder, "grep -F " + folder + " /proc/self/mounts || true"));
    }

    /** Anywhere, of any length, past the ends of clusters of the file and of sectors, more than once, and zeros. */
    @Test
    void whatWasWrittenIsReadAndNothingElseIsChanged() throws IOException {
        Random random = new Random(7);
        try (RawSource disk = RawSource.open(folder.resolve("disk.img")); Overlay shown = over(new Window(disk, 512, BYTES - 1024))) {
            Tools.run(folder, "tail -c +513 disk.img | head -c " + (BYTES - 1024) + " > plain.img");
            for (Path each : List.of(folder.resolve("plain.img"), shown.file())) {
                Random same = new Random(11);
                for (int i = 0; i < 60; i++) {
                    int at = same.nextInt(BYTES - 1024 - 200_000);
                    int length = 1 + same.nextInt(i % 3 == 0 ? 200_000 : 5000);
                    Tools.run(folder, i % 4 == 3 ? "fallocate -z -o " + at + " -l " + length + " '" + each + "'"
                        : "head -c " + length + " /proc/self/exe > piece; dd if=piece of='" + each + "' conv=notrunc status=none "
                            + "oflag=seek_bytes seek=" + at);
                }
            }
            Tools.run(folder, "cmp plain.img '" + shown.file() + "'");
            try (Overlaid changed = shown.changed()) {
                assertEquals(0, Files.size(shown.file()), "it is shown yet");
                byte[] plain = Files.readAllBytes(folder.resolve("plain.img"));
                for (int i = 0; i < 400; i++) {
                    int at = i == 0 ? 0 : random.nextInt(plain.length);
                    ByteBuffer there = ByteBuffer.allocate(i == 0 ? plain.length : 1 + random.nextInt(plain.length - at));
                    changed.read(at, there);
                    assertTrue(there.flip().equals(ByteBuffer.wrap(plain, at, there.remaining())), "at " + at);
                }
                assertTrue(changed.written().totalBytes() > 0 && changed.written().totalBytes() < plain.length);
            }
        }
        Tools.run(folder, "sha256sum -c --quiet disk.sum");
        requireNothingLeft();
    }

    /** One that was killed leaves nothing that keeps the folder from being removed. */
    @Test
    void aProgramThatWasKilledLeavesNothing() throws IOException {
        try (RawSource disk = RawSource.open(folder.resolve("disk.img")); Overlay shown = over(disk)) {
            ProcessHandle shows = ProcessHandle.current().descendants().filter(each -> each.info().command().orElse("")
                .endsWith("qemu-storage-daemon") && each.info().commandLine().orElse("").contains(folder.getFileName().toString()))
                .findFirst().orElseThrow();
            shows.destroyForcibly();
            shows.onExit().join();
            assertThrows(IOException.class, () -> Files.readAllBytes(shown.file()));
        }
        requireNothingLeft();
        Tools.run(folder, "sha256sum -c --quiet disk.sum");
    }

    /** What a tool says of a part that cannot be read is not the reason. debugfs tells where the root folder lies; no survey reads it. */
    @Test
    void damageThatAToolMeetsIsToldAsDamage() throws IOException {
        Path disk = Medium.GPT_EXT4_32BIT.make(folder);
        long root = Long.parseLong(Tools.run(folder, "debugfs -R 'blocks <2>' '" + disk + "?offset=1048576' 2> said.txt").strip());
        int blockBytes = Integer.parseInt(Tools.run(folder, "dumpe2fs -h '" + disk + "?offset=1048576' 2> said.txt "
            + "| awk '/^Block size/ {print $3}'").strip());
        Bag bag = capture(disk, "image");
        RestoreRequest request = request(bag, 60 * MIB, LayoutChoice.KEEP.shrinking(true));
        long at = MIB + root * blockBytes;
        try (Damaged damaged = new Damaged(RawSource.open(disk), at, at + blockBytes)) {
            ImageChunks image = new ImageChunks(bag, bag.content(), request.survey().toRead());
            FaultException told = assertThrows(FaultException.class, () -> Shrinking.of(image, damaged, request.survey(),
                request.layout(), Optional.of(scratch), Overlay::over, Watch.NONE));
            assertEquals(Fault.Kind.DAMAGED, told.fault().kind(), told.fault().sentence());
            assertEquals("Damaged here. Nothing was written onto the target.", told.fault().sentence());
        }
        try (var left = Files.list(scratch)) {
            assertEquals(List.of(), left.toList());
        }
        requireNothingLeft();
    }
}
