package app.granary.core.filesystem;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.Extents;
import java.util.BitSet;
import java.util.Random;
import org.junit.jupiter.api.Test;

class FreeRunsTest {
    /** Property: whatever the pieces it is given in, the free runs are those a plain walk over the bits finds. */
    @Test
    void aBitmapInPiecesGivesTheRunsOfTheWhole() {
        Random random = new Random(11);
        for (int round = 0; round < 300; round++) {
            int blocks = 1 + random.nextInt(5000);
            BitSet used = new BitSet(blocks);
            for (int at = 0; at < blocks;) {
                int length = 1 + random.nextInt(random.nextBoolean() ? 3 : 200);
                used.set(at, Math.min(blocks, at + length), random.nextBoolean());
                at += length;
            }
            byte[] bits = java.util.Arrays.copyOf(used.toByteArray(), (blocks + 7) / 8);
            FreeRuns runs = new FreeRuns(1000, 512);
            int piece = 1 + random.nextInt(40);
            for (int at = 0; at < bits.length; at += piece) {
                byte[] window = java.util.Arrays.copyOfRange(bits, at, Math.min(bits.length, at + piece));
                runs.bitmap(window, Math.min(window.length * 8, blocks - at * 8), at * 8L);
            }
            Extents.Builder expected = new Extents.Builder();
            for (int at = used.nextClearBit(0); at < blocks; at = used
                .nextClearBit(used.nextSetBit(at) < 0 ? blocks : used.nextSetBit(at))) {
                int end = used.nextSetBit(at) < 0 ? blocks : used.nextSetBit(at);
                expected.add(1000 + at * 512L, 1000 + end * 512L);
            }
            assertEquals(expected.build(), runs.build());
            assertEquals(blocks - used.cardinality(), runs.freeBlocks());
        }
    }

    /** Every second cluster free, four million of them: memory stays bounded, nothing used is ever called free, the count stays exact. */
    @Test
    void aFileSystemInShredsIsReadMoreWhollyButCountedExactly() {
        FreeRuns runs = new FreeRuns(0, 4096);
        byte[] shreds = new byte[1 << 20];
        java.util.Arrays.fill(shreds, (byte) 0x55);
        runs.bitmap(shreds, shreds.length * 8, 0);
        long end = shreds.length * 8L;
        runs.add(end, end + 1_000_000);
        assertEquals(end / 2 + 1_000_000, runs.freeBlocks());
        Extents free = runs.build();
        assertTrue(free.count() <= FreeRuns.MOST);
        assertEquals(1_000_001 * 4096L, free.bytesWithin((end - 1) * 4096, Long.MAX_VALUE),
            "a long run is kept, joined with the free block before it");
        for (int i = 0; i < Math.min(1000, free.count() - 1); i++) {
            assertEquals(1, free.start(i) / 4096 % 2, "only odd clusters were free");
        }
    }
}
