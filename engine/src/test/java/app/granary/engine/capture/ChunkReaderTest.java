package app.granary.engine.capture;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;

import app.granary.core.disk.Extents;
import app.granary.engine.codec.Chunks;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ChunkReaderTest {
    @TempDir
    Path folder;

    /** Against the plain way: a copy of the disk with everything unwanted zeroed byte by byte. */
    @Test
    void keepsWhatIsWantedAndZeroesTheRest() throws IOException {
        Random random = new Random(8);
        byte[] disk = new byte[5 * Chunks.BYTES / 2];
        random.nextBytes(disk);
        Path file = folder.resolve("disk.img");
        Files.write(file, disk);
        try (RawSource source = RawSource.open(file)) {
            for (int round = 0; round < 40; round++) {
                Extents.Builder wanted = new Extents.Builder();
                byte[] expected = new byte[disk.length];
                int at = random.nextInt(disk.length);
                while (at < disk.length) {
                    int end = Math.min(disk.length, at + 1 + random.nextInt(round % 2 == 0 ? 9000 : 900_000));
                    wanted.add(at, end);
                    System.arraycopy(disk, at, expected, at, end - at);
                    at = end + 1 + random.nextInt(round % 3 == 0 ? 5000 : 1_500_000);
                }
                ChunkReader reader = new ChunkReader(source, wanted.build());
                for (int chunk = 0; chunk < 3; chunk++) {
                    byte[] into = new byte[Chunks.BYTES];
                    Arrays.fill(into, (byte) 0x55); // what an earlier chunk left
                    int length = reader.read(chunk, into, new java.util.ArrayList<>());
                    int start = chunk * Chunks.BYTES;
                    assertEquals(Math.min(Chunks.BYTES, disk.length - start), length);
                    assertArrayEquals(Arrays.copyOfRange(expected, start, start + length), Arrays.copyOf(into, length));
                }
            }
        }
    }

    @Test
    void findsTheNextChunkWithContent() throws IOException {
        Path file = folder.resolve("disk.img");
        Files.write(file, new byte[4 * Chunks.BYTES]);
        try (RawSource source = RawSource.open(file)) {
            ChunkReader reader = new ChunkReader(source,
                Extents.range(10, 20).union(Extents.range(2L * Chunks.BYTES - 1, 2L * Chunks.BYTES + 1)));
            assertEquals(0, reader.nextWithContent(0));
            assertEquals(1, reader.nextWithContent(1));
            assertEquals(2, reader.nextWithContent(2));
            assertEquals(4, reader.nextWithContent(3));
            assertEquals(10, reader.contentBytes(0));
            assertEquals(1, reader.contentBytes(1));
        }
    }
}
