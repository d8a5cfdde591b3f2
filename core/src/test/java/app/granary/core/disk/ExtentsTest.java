package app.granary.core.disk;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.util.BitSet;
import java.util.Random;
import org.junit.jupiter.api.Test;

class ExtentsTest {
    private static final int SPACE = 300;

    /** Every operation against the same on a bit per byte, for many random sets. */
    @Test
    void behavesLikeASetOfBytes() {
        Random random = new Random(7);
        for (int round = 0; round < 2000; round++) {
            BitSet a = random(random);
            BitSet b = random(random);
            int from = random.nextInt(SPACE);
            int to = from + random.nextInt(SPACE - from + 1);
            BitSet union = (BitSet) a.clone();
            union.or(b);
            BitSet minus = (BitSet) a.clone();
            minus.andNot(b);
            BitSet complement = new BitSet();
            complement.set(from, to);
            complement.andNot(a);
            assertEquals(of(union), of(a).union(of(b)));
            assertEquals(of(minus), of(a).minus(of(b)));
            assertEquals(of(complement), of(a).complement(from, to));
            assertEquals(a.cardinality(), of(a).totalBytes());
            assertEquals(a.get(from, to).cardinality(), of(a).bytesWithin(from, to));
            int at = of(a).firstEndingAfter(from);
            int next = a.nextSetBit(from);
            assertEquals(next, at == of(a).count() ? -1 : Math.max(from, of(a).start(at)));
        }
    }

    @Test
    void rangesOutOfOrderAreRefused() {
        Extents.Builder builder = new Extents.Builder().add(10, 20);
        assertThrows(IllegalArgumentException.class, () -> builder.add(5, 8));
        assertThrows(IllegalArgumentException.class, () -> builder.add(30, 29));
    }

    private static BitSet random(Random random) {
        BitSet bits = new BitSet();
        for (int i = random.nextInt(12); i > 0; i--) {
            int start = random.nextInt(SPACE);
            bits.set(start, start + random.nextInt(SPACE - start + 1));
        }
        return bits;
    }

    private static Extents of(BitSet bits) {
        Extents.Builder out = new Extents.Builder();
        for (int start = bits.nextSetBit(0); start >= 0; start = bits.nextSetBit(bits.nextClearBit(start))) {
            out.add(start, bits.nextClearBit(start));
        }
        return out.build();
    }
}
