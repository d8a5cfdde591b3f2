package app.granary.core.disk;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.UUID;

/** Made-up tables that could be. */
public final class SomeTables {
    private SomeTables() {
    }

    public static PartitionTable.Gpt gpt(Random random, long diskBytes, int sector) {
        long sectors = diskBytes / sector;
        int entries = random.nextInt(4) == 0 ? 256 : 128;
        long entrySectors = (entries * 128L + sector - 1) / sector;
        long first = 2 + entrySectors;
        long last = sectors - 2 - entrySectors;
        List<String> types = PartitionType.known().stream().map(PartitionType::code).filter(code -> code.length() == 36).toList();
        List<Partition> partitions = new ArrayList<>();
        long at = first;
        for (int number = 1 + random.nextInt(3); at < last && partitions.size() < 6; number += 1 + random.nextInt(2)) {
            long start = at + random.nextInt(100);
            long end = Math.min(last + 1, start + 1 + random.nextInt(1500));
            if (start >= end) {
                break;
            }
            partitions.add(new Partition(number, start * sector, (end - start) * sector,
                PartitionType.of(types.get(random.nextInt(types.size()))),
                random.nextBoolean() ? "" : "näme " + number, guid(random), random.nextBoolean() ? 0 : 1L << random.nextInt(64), false));
            at = end;
        }
        return new PartitionTable.Gpt(guid(random), first, last, entries, partitions, List.of());
    }

    public static PartitionTable.Mbr mbr(Random random, long diskBytes) {
        List<Partition> primary = new ArrayList<>();
        List<Partition> logical = new ArrayList<>();
        long sectors = diskBytes / 512;
        long at = 63;
        for (int number = 1; number <= 3; number++) {
            long length = 1 + random.nextInt(400);
            if (random.nextInt(3) > 0) {
                primary.add(
                    new Partition(number, at * 512, length * 512, PartitionType.of("83"), "", "", random.nextBoolean() ? 0x80 : 0, false));
            }
            at += length;
        }
        if (random.nextBoolean()) {
            primary.add(new Partition(4, at * 512, (sectors - at) * 512, PartitionType.of("0F"), "", "", 0, true));
            long from = at;
            for (int number = 5; number < 9 && from + 400 < sectors; number++) {
                long start = from + 1 + random.nextInt(100);
                long length = 1 + random.nextInt(200);
                logical.add(new Partition(number, start * 512, length * 512, PartitionType.of("0B"), "", "", 0, false));
                from = start + length;
            }
        }
        primary.addAll(logical);
        return new PartitionTable.Mbr(random.nextInt() & 0xFFFF_FFFFL, primary);
    }

    private static String guid(Random random) {
        return new UUID(random.nextLong(), random.nextLong()).toString().toUpperCase(java.util.Locale.ROOT);
    }
}
