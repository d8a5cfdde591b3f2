package app.granary.engine.restore;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.Extents;
import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionType;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.source.BlockTarget;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.OptionalLong;
import java.util.Random;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;

/** The model is an array that is copied byte by byte. */
class PiecesTest {
    private static Placed placed(int number, long from, long to, long bytes) {
        PartitionType type = PartitionType.of("83");
        return new Placed(new Partition(number, from, bytes, type, "", "", 0, false),
            new Partition(number, to, bytes, type, "", "", 0, false), "ext4", OptionalLong.empty(), 0, bytes, bytes, true);
    }

    private static RestoreLayout layout(long targetBytes, List<Placed> placed, boolean asItWas, boolean othersStay) {
        PartitionTable table = new PartitionTable.Mbr(1, placed.stream().map(Placed::to).toList());
        return new RestoreLayout(LayoutTarget.blank(targetBytes, 512, Firmware.UNKNOWN), table, placed, List.of(), 512, 0, List.of(),
            asItWas,
            othersStay, List.of(), List.of(), List.of());
    }

    /** Random partitions, moved: each byte of the target is the one the model says, whatever the size of what is handed over at once. */
    @RepeatedTest(40)
    void everyByteGoesWhereItsPartitionGoes(RepetitionInfo seed) throws IOException {
        Random random = new Random(seed.getCurrentRepetition());
        byte[] disk = new byte[4000];
        random.nextBytes(disk);
        List<Placed> placed = new ArrayList<>();
        int from = 100 + random.nextInt(50);
        int to = 100 + random.nextInt(300);
        for (int number = 1; number <= 4; number++) {
            int bytes = 1 + random.nextInt(700);
            placed.add(placed(number, from, to, bytes));
            from += bytes + random.nextInt(60);
            to += bytes + random.nextInt(200);
        }
        byte[] meant = new byte[6000];
        Arrays.fill(meant, (byte) 0x55);
        int front = (int) Math.min(placed.get(0).from().startBytes(), placed.get(0).to().startBytes());
        System.arraycopy(disk, 0, meant, 0, front);
        for (Placed each : placed) {
            System.arraycopy(disk, (int) each.from().startBytes(), meant, (int) each.to().startBytes(), (int) each.copiedBytes());
        }
        RestoreLayout layout = layout(meant.length, placed, false, false);
        Pieces pieces = Pieces.of(layout, disk.length);
        byte[] target = new byte[meant.length];
        Arrays.fill(target, (byte) 0x55);
        TargetWriter writer = new TargetWriter(new Memory(target), pieces, Extents.range(0, disk.length), false,
            java.util.Optional.empty(), () -> Extents.NONE);
        for (int at = 0; at < disk.length;) {
            int length = Math.min(disk.length - at, 1 + random.nextInt(300));
            writer.write(at, Arrays.copyOfRange(disk, at, at + length), length);
            at += length;
        }
        assertArrayEquals(meant, target);
        assertEquals(front + placed.stream().mapToLong(Placed::copiedBytes).sum(), pieces.bytesWithin(0, disk.length));
        assertEquals(writer.writtenBytes(), pieces.bytesWithin(0, disk.length));
    }

    /** What is not in use keeps what the target had, unless zeros are asked for. */
    @Test
    void unusedBytesAreLeftOrZeroed() throws IOException {
        byte[] disk = new byte[1000];
        Arrays.fill(disk, 200, 300, (byte) 7);
        Extents used = new Extents.Builder().add(0, 50).add(200, 300).build();
        for (boolean zero : new boolean[] {false, true}) {
            byte[] target = new byte[1000];
            Arrays.fill(target, (byte) 0x55);
            TargetWriter writer = new TargetWriter(new Memory(target), Pieces.of(layout(1000, List.of(), true, false), 1000), used, zero,
                java.util.Optional.empty(), () -> Extents.NONE);
            writer.write(0, Arrays.copyOf(disk, 500), 500);
            writer.zeros(500, 500);
            assertEquals(7, target[250]);
            assertEquals(0, target[10]);
            assertEquals(zero ? 0 : 0x55, target[100]);
            assertEquals(zero ? 0 : 0x55, target[800]);
        }
    }

    @Test
    void whereOthersStayNothingElseIsTouched() throws IOException {
        Pieces pieces = Pieces.of(layout(4000, List.of(placed(2, 500, 500, 300)), false, true), 4000);
        assertEquals(300, pieces.bytesWithin(0, 4000));
        assertEquals(0, pieces.bytesWithin(0, 500));
        pieces.within(0, 4000, (from, to, at) -> assertTrue(from == 500 && to == 800 && at == 500));
    }

    @Test
    void aSmallerTargetGetsNoByteBeyondItsEnd() {
        assertEquals(700, Pieces.of(layout(700, List.of(placed(1, 100, 100, 500)), true, false), 1000).bytesWithin(0, 1000));
    }

    /** Chunks that end out of order count once there is no gap before them. */
    @RepeatedTest(10)
    void safeSoFarNeverPassesAGap(RepetitionInfo seed) {
        Random random = new Random(seed.getCurrentRepetition());
        List<long[]> runs = new ArrayList<>();
        for (long at = 0; at < 500;) {
            long count = 1 + random.nextInt(5);
            runs.add(new long[] {at, count});
            at += count;
        }
        List<long[]> ended = new ArrayList<>();
        SafeSoFar safe = new SafeSoFar(0);
        List<long[]> shuffled = new ArrayList<>(runs);
        java.util.Collections.shuffle(shuffled, random);
        for (long[] run : shuffled) {
            ended.add(run);
            long model = 0;
            for (long[] each : runs) {
                if (each[0] == model && ended.contains(each)) {
                    model += each[1];
                }
            }
            assertEquals(model, safe.written(run[0], run[1]));
        }
    }

    private record Memory(byte[] content) implements BlockTarget {
        @Override
        public String name() {
            return "memory";
        }

        @Override
        public long sizeBytes() {
            return content.length;
        }

        @Override
        public boolean startsAsZeros() {
            return false;
        }

        @Override
        public void write(long offset, ByteBuffer from) {
            from.get(content, (int) offset, from.remaining());
        }

        @Override
        public void flush() {
        }

        @Override
        public void finish() {
        }

        @Override
        public void close() {
        }
    }
}
