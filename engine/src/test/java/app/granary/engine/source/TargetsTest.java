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
        assertTrue(fault.getMessage().contains("is 1 bytes too small for this image; nothing was written. Use a disk of at least 5 bytes."), fault.getMessage());
        try (DeviceTarget target = DeviceTarget.open(device, 4)) {
            assertFalse(target.startsAsZeros());
            target.write(1, ByteBuffer.wrap(new byte[] {0, 0}));
            target.finish();
        }
        assertArrayEquals(new byte[] {9, 0, 0, 9}, Files.readAllBytes(device));
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
