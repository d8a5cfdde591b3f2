package app.granary.core.layout;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Partition;
import app.granary.core.disk.TableSectors;
import app.granary.core.filesystem.DiskSurvey;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Random;

/** Images of any shape, and what must hold of their layouts. */
final class RandomImages {
    private static final List<String> KINDS = List.of("ntfs", "ext4", "vfat", "luks", "swap", "unknown");

    private RandomImages() {
    }

    /** GPT, MBR, or MBR with logical partitions; aligned or not, with gaps or without. */
    static DiskSurvey next(Random random) {
        boolean gpt = random.nextBoolean();
        int count = 1 + random.nextInt(gpt ? 8 : 4);
        int logical = !gpt && count == 4 ? 1 + random.nextInt(4) : 0;
        boolean odd = random.nextInt(4) == 0;
        long at = odd ? 63 * 512 : 1 << 20;
        Images images = new Images(1L << 50, 512);
        List<Object[]> rows = new ArrayList<>();
        for (int i = 0; i < count - (logical > 0 ? 1 : 0); i++) {
            long size = size(random, odd);
            rows.add(new Object[] {i + 1, at, size});
            at += size + gap(random, odd);
        }
        long container = at;
        for (int i = 0; i < logical; i++) {
            long start = at + (odd ? 63 * 512 : 1 << 20);
            long size = size(random, odd);
            rows.add(new Object[] {5 + i, start, size});
            at = start + size;
        }
        long disk = (at + (1 << 20) + random.nextInt(3) * 1_000_000_000L) / 512 * 512;
        images = new Images(disk, 512);
        for (Object[] row : rows) {
            long size = (long) row[2];
            long used = (long) (size * random.nextDouble());
            String type = gpt ? random.nextInt(5) == 0 ? Images.RECOVERY : Images.BASIC : "07";
            images.with((int) row[0], (long) row[1], size, type, KINDS.get(random.nextInt(KINDS.size())), used,
                Math.max(used, (long) (size * random.nextDouble())));
        }
        if (logical > 0) {
            images.container(count, container, at - container);
        }
        return gpt ? images.gpt() : images.mbr();
    }

    private static long size(Random random, boolean odd) {
        return (1 + random.nextInt(4000)) * (1L << 20) + (odd ? random.nextInt(2000) * 512L : 0);
    }

    private static long gap(Random random, boolean odd) {
        return random.nextInt(3) == 0 ? random.nextInt(500) * (1L << 20) : odd ? random.nextInt(100) * 512L : 0;
    }

    static void requireSound(DiskSurvey image, RestoreLayout layout, boolean mayShrink) {
        long sum = layout.partitionBytes() + layout.tableBytes() + layout.alignmentBytes() + layout.unallocatedBytes();
        assertEquals(layout.target().sizeBytes(), sum, "totals");
        assertTrue(layout.alignmentBytes() >= 0);
        List<Placed> placed = layout.placed().stream().sorted(Comparator.comparingLong(each -> each.to().startBytes())).toList();
        assertEquals(layout.placed(), placed, "order");
        assertEquals(image.partitions().stream().filter(each -> !each.partition().container()).map(each -> each.partition().number())
            .sorted().toList(), placed.stream().map(each -> each.to().number()).sorted().toList());
        long at = 0;
        for (Placed each : placed) {
            Partition to = each.to();
            assertTrue(to.startBytes() >= at, "no overlap");
            assertTrue(!each.moved() || to.startBytes() % RestoreLayout.ALIGN == 0, "alignment");
            assertTrue(to.sizeBytes() >= Math.max(each.minBytes(), each.usedBytes().orElse(0)), "nothing in use is cut");
            assertTrue(mayShrink || !each.shrunk(), "nothing is cut");
            at = to.endBytes();
        }
        assertTrue(at <= layout.target().sizeBytes());
    }

    /** A disk that holds nothing but a table. */
    static BlockSource over(long size, List<TableSectors> sectors) {
        return new BlockSource() {
            @Override
            public String name() {
                return "target";
            }

            @Override
            public long sizeBytes() {
                return size;
            }

            @Override
            public int sectorBytes() {
                return 512;
            }

            @Override
            public void read(long offset, ByteBuffer into) {
                for (long at = offset; into.hasRemaining(); at++) {
                    byte value = 0;
                    for (TableSectors each : sectors) {
                        if (at >= each.offsetBytes() && at < each.offsetBytes() + each.content().length) {
                            value = each.content()[(int) (at - each.offsetBytes())];
                        }
                    }
                    into.put(value);
                }
            }
        };
    }
}
