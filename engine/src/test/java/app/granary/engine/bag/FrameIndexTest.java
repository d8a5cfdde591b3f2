package app.granary.engine.bag;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.engine.codec.Chunks;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

class FrameIndexTest {
    /** Against adding up chunk by chunk, over random runs of free space and frames, and slices that begin and end within chunks. */
    @Test
    void densityIsWhatItsChunksTakeByTheirLength() {
        SplittableRandom random = new SplittableRandom(12);
        for (int round = 0; round < 200; round++) {
            FrameIndex index = new FrameIndex();
            List<Integer> stored = new ArrayList<>();
            for (int run = 0; run < 1 + random.nextInt(30); run++) {
                boolean zeros = random.nextBoolean();
                int count = zeros ? 1 + random.nextInt(40) : 1;
                int length = zeros ? 52 : 1 + random.nextInt(Chunks.BYTES);
                index.add(count, length, zeros ? 7 : random.nextInt(), zeros);
                for (int i = 0; i < count; i++) {
                    stored.add(length);
                }
            }
            long start = random.nextLong(stored.size() * (long) Chunks.BYTES);
            long size = Math.max(1, random.nextLong(stored.size() * (long) Chunks.BYTES - start + 1));
            int slices = 1 + random.nextInt(20);
            List<Integer> density = index.density(start, size, slices);
            int parts = (int) Math.max(1, Math.min(slices, size / Chunks.BYTES));
            assertEquals(parts, density.size());
            for (int i = 0; i < parts; i++) {
                int first = (int) ((start + size / parts * i) / Chunks.BYTES);
                int end = (int) Math.min(stored.size(),
                    Math.max(first + 1, (start + (i + 1 == parts ? size : size / parts * (i + 1))) / Chunks.BYTES));
                long sum = stored.subList(Math.min(first, end), end).stream().mapToLong(Integer::longValue).sum();
                assertEquals(first >= end ? 0 : sum * 1000 / ((long) (end - first) * Chunks.BYTES), (long) density.get(i));
            }
        }
    }

    @Test
    void freeSpaceIsNothingAndWhatDoesNotShrinkIsAll() {
        FrameIndex index = new FrameIndex();
        index.add(10, 52, 1, true);
        index.add(1, Chunks.BYTES, 2, false);
        assertEquals(List.of(0, 1000), index.density(9L * Chunks.BYTES, 2L * Chunks.BYTES, 96));
        assertTrue(index.density(10L * Chunks.BYTES, 1, 96).equals(List.of(1000)), "less than a chunk is its chunk");
    }
}
