package app.granary.engine.restore;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.mock;

import app.granary.core.disk.Extents;
import app.granary.engine.codec.Chunks;
import app.granary.engine.media.MemorySource;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Whatever rows an image is told in, what is told of it with something over it is what is used of the disk as it is now, byte by byte. */
class OverlaidChunksTest {
    private static final int SECTOR = 512;
    private static final int MOST_CHUNKS = 6;

    private static Extents some(Random random, int bytes, int share) {
        Extents out = Extents.NONE;
        for (int i = 0; i < share; i++) {
            int from = random.nextInt(bytes / SECTOR) * SECTOR;
            out = out.union(Extents.range(from, Math.min(bytes, from + (1 + random.nextInt(2 * Chunks.BYTES / SECTOR)) * SECTOR)));
        }
        return out;
    }

    private static void random(Random random, byte[] bytes, Extents where) {
        for (int i = 0; i < where.count(); i++) {
            byte[] piece = new byte[(int) (where.end(i) - where.start(i))];
            random.nextBytes(piece);
            System.arraycopy(piece, 0, bytes, (int) where.start(i), piece.length);
        }
    }

    /** As an image is told: zeros in rows, whose buffer holds anything behind the bytes that are told. */
    private static void tell(byte[] image, Random random, ChunkSource.Taker taker) throws IOException {
        byte[] buffer = new byte[Chunks.BYTES];
        long count = Chunks.count(image.length);
        for (long chunk = 0; chunk < count; chunk++) {
            long first = chunk;
            while (chunk + 1 < count && zeros(image, first) && zeros(image, chunk + 1) && random.nextInt(4) > 0) {
                chunk++;
            }
            random.nextBytes(buffer);
            int length = length(image, chunk);
            System.arraycopy(image, (int) (chunk * Chunks.BYTES), buffer, 0, length);
            taker.content(first, chunk - first + 1, buffer, length);
        }
    }

    private static int length(byte[] image, long chunk) {
        return (int) Math.min(Chunks.BYTES, image.length - chunk * Chunks.BYTES);
    }

    private static boolean zeros(byte[] image, long chunk) {
        int from = (int) (chunk * Chunks.BYTES);
        return Chunks.isZero(Arrays.copyOfRange(image, from, from + length(image, chunk)), length(image, chunk));
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 5, 8, 13, 21, 34, 55, 89, 144, 233, 377, 610, 987, 1597})
    void whatIsToldIsWhatIsUsedNow(long seed) throws IOException {
        Random random = new Random(seed);
        int bytes = SECTOR * (1 + random.nextInt(MOST_CHUNKS * Chunks.BYTES / SECTOR));
        byte[] image = new byte[bytes];
        random(random, image, some(random, bytes, random.nextInt(3)));
        Extents written = some(random, bytes, random.nextInt(3));
        byte[] now = image.clone();
        random(random, now, written);
        Extents used = written.union(some(random, bytes, 1 + random.nextInt(3)));
        byte[] expected = new byte[bytes];
        for (int i = 0; i < used.count(); i++) {
            System.arraycopy(now, (int) used.start(i), expected, (int) used.start(i), (int) (used.end(i) - used.start(i)));
        }

        ChunkSource told = mock(ChunkSource.class);
        doAnswer(call -> {
            tell(image, random, call.getArgument(3));
            return null;
        }).when(told).chunks(anyLong(), any(), any(), any());
        byte[] got = new byte[bytes];
        random.nextBytes(got);
        new OverlaidChunks(told, new MemorySource(now), used, written, watch -> { }).chunks(0, Progress.Stage.RESTORING, Watch.NONE,
            new ChunkSource.Taker() {
                @Override
                public void content(long chunk, long count, byte[] content, int length) {
                    int from = (int) (chunk * Chunks.BYTES);
                    if (count == 1) {
                        System.arraycopy(content, 0, got, from, length);
                    } else {
                        Arrays.fill(got, from, (int) (from + (count - 1) * Chunks.BYTES + length), (byte) 0);
                    }
                }

                @Override
                public void damaged(long chunk, String why) {
                    throw new AssertionError(why);
                }
            });
        assertArrayEquals(expected, got);
    }
}
