package app.granary.engine.source;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.FaultException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.OptionalLong;
import java.util.Random;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class TargetsTest {
    @TempDir
    Path folder;

    @Test
    void aFileGetsItsNameOnlyWhenFinished() throws IOException {
        Path file = folder.resolve("disk.img");
        try (FileTarget target = FileTarget.create(file, 4096)) {
            target.write(1000, ByteBuffer.wrap(new byte[] {1, 2, 3}));
            assertFalse(Files.exists(file));
            assertTrue(target.startsAsZeros());
            target.finish();
        }
        byte[] expected = new byte[4096];
        expected[1000] = 1;
        expected[1001] = 2;
        expected[1002] = 3;
        assertArrayEquals(expected, Files.readAllBytes(file));
        try (FileTarget unfinished = FileTarget.create(folder.resolve("other.img"), 10)) {
            assertEquals(10, unfinished.sizeBytes());
        }
        try (var left = Files.list(folder)) {
            assertEquals(1, left.count(), "nothing of the unfinished one is left");
        }
    }

    @Test
    void nothingThatIsThereIsOverwritten() throws IOException {
        Path full = Files.writeString(folder.resolve("full"), "x");
        assertTrue(assertThrows(FaultException.class, () -> FileTarget.create(full, 5)).getMessage().contains("nothing was written"));
        assertThrows(FaultException.class, () -> FileTarget.create(folder, 5));
        assertThrows(FaultException.class, () -> FileTarget.create(folder.resolve("no/such/file"), 5));
        Path empty = Files.createFile(folder.resolve("empty"));
        FileTarget.create(empty, 5).close();
        assertEquals("x", Files.readString(full));
    }

    @Test
    void aDeviceThatIsTooSmallIsLeftAlone() throws IOException {
        Path device = Files.write(folder.resolve("device"), new byte[] {9, 9, 9, 9});
        FaultException fault = assertThrows(FaultException.class, () -> DeviceTarget.open(device, 5));
        assertTrue(fault.getMessage().contains("is 1 bytes too small for this image; nothing was written. Use a disk of at least 5 bytes."),
            fault.getMessage());
        try (DeviceTarget target = DeviceTarget.open(device, 4)) {
            assertFalse(target.startsAsZeros());
            target.write(1, ByteBuffer.wrap(new byte[] {0, 0}));
            target.finish();
        }
        assertArrayEquals(new byte[] {9, 0, 0, 9}, Files.readAllBytes(device));
    }

    /** Lengths and offsets around whole blocks, written by four threads, beside a plain array written the same. */
    @Test
    void longAndShortPiecesComeWhereTheyBelong() throws Exception {
        int bytes = 24 << 20;
        byte[] expected = new byte[bytes];
        Random random = new Random(7);
        List<int[]> pieces = new ArrayList<>();
        int at = 0;
        for (int length : new int[] {1, 4095, 300_000, 1 << 20, 4096, 262_144, 262_143, 2_500_001, 511, 1_048_577, 3 << 20, 7}) {
            pieces.add(new int[] {at, length});
            at += length + (length % 3 == 0 ? 0 : random.nextInt(9000));
        }
        pieces.add(new int[] {bytes - 700_001, 700_001}); // up to the very end
        Path device = Files.write(folder.resolve("device"), expected);
        for (BlockTarget target : List.of(FileTarget.create(folder.resolve("file"), bytes), DeviceTarget.open(device, bytes))) {
            write(target, pieces, expected, random);
            assertArrayEquals(expected, Files.readAllBytes(Path.of(target.name())), target.name());
            try (RawSource back = RawSource.openPastCache(Path.of(target.name()))) {
                byte[] read = new byte[bytes - 1];
                back.read(1, ByteBuffer.wrap(read, 0, 4095));
                back.read(4096, ByteBuffer.wrap(read, 4095, read.length - 4095));
                assertArrayEquals(Arrays.copyOfRange(expected, 1, bytes), read);
                assertThrows(FaultException.class, () -> back.read(bytes - 4096, ByteBuffer.allocate(1 << 20)), "it ends before");
            }
        }
    }

    private static void write(BlockTarget target, List<int[]> pieces, byte[] expected, Random random) throws Exception {
        ExecutorService threads = Executors.newFixedThreadPool(4);
        try (target) {
            List<Future<?>> done = new ArrayList<>();
            for (int[] piece : pieces) {
                byte[] content = new byte[piece[1] + 5];
                random.nextBytes(content);
                System.arraycopy(content, 3, expected, piece[0], piece[1]);
                done.add(threads.submit(() -> {
                    target.write(piece[0], ByteBuffer.wrap(content, 3, piece[1]));
                    Arrays.fill(content, (byte) 0); // taken before write returned
                    return null;
                }));
            }
            for (Future<?> each : done) {
                each.get();
            }
            target.write(4096, ByteBuffer.wrap(new byte[] {1, 2, 3})); // over what may still be on its way
            System.arraycopy(new byte[] {1, 2, 3}, 0, expected, 4096, 3);
            target.finish();
        } finally {
            threads.shutdown();
        }
    }

    @Test
    void aFlushThatFailedIsToldByEveryLaterCall() throws IOException {
        List<String> done = new ArrayList<>();
        try (WriteBehind behind = new WriteBehind("SPARE-1")) {
            behind.now(() -> done.add("first"));
            behind.later(OptionalLong.of(4096), () -> {
                throw new IOException("Input/output error");
            }, () -> done.add("after"));
            for (int i = 0; i < 2; i++) {
                FaultException told = assertThrows(FaultException.class, () -> behind.now(() -> done.add("second")));
                assertEquals(
                    "SPARE-1 could not be written at byte 4096: Input/output error. What is on it cannot be relied on; check its cable, "
                        + "or use another.",
                    told.getMessage());
                assertEquals(OptionalLong.of(4096), told.fault().offsetBytes());
            }
        }
        assertEquals(List.of("first", "after"), done);
    }

    @Test
    void deletingAFolderDoesNotFollowLinks() throws IOException {
        Path kept = Files.writeString(Files.createDirectory(folder.resolve("kept")).resolve("file"), "kept");
        Path gone = Files.createDirectories(folder.resolve("gone/inner"));
        Files.createSymbolicLink(gone.resolve("link"), kept.getParent());
        Folders.delete(folder.resolve("gone"));
        Folders.delete(folder.resolve("gone"));
        assertFalse(Files.exists(folder.resolve("gone")));
        assertEquals("kept", Files.readString(kept));
    }
}
