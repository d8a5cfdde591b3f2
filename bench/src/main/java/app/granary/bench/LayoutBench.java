package app.granary.bench;

import app.granary.core.disk.Extents;
import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionType;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.FileSystem;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;

/** 10 000 random images laid onto random targets: how long it takes, and whether all that must hold does. */
final class LayoutBench {
    private static final int LAYOUTS = 10_000;
    private static final long MIB = 1L << 20;
    private static final List<String> KINDS = List.of("ntfs", "ext4", "vfat");

    private LayoutBench() {
    }

    /** @param broken how many broke an invariant */
    record Figures(double seconds, int fitted, int broken) {
    }

    static Figures run() {
        Random random = new Random(7);
        List<DiskSurvey> images = new ArrayList<>();
        for (int i = 0; i < LAYOUTS; i++) {
            images.add(image(random));
        }
        int fitted = 0;
        int broken = 0;
        long began = System.nanoTime();
        for (DiskSurvey image : images) {
            long bytes = Math.max(8 * MIB, (long) (image.sizeBytes() * (0.4 + random.nextDouble() * 2)) / 512 * 512);
            LayoutChoice choice = new LayoutChoice(LayoutChoice.Strategy.values()[random.nextInt(4)], random.nextBoolean(),
                Map.of(1, random.nextInt(4000) * MIB), Set.of(), false, Map.of(), List.of(), random.nextBoolean());
            RestoreLayout layout = RestoreLayout.of(image, LayoutTarget.blank(bytes, 512, Firmware.UEFI), choice);
            fitted += layout.fits() ? 1 : 0;
            broken += layout.fits() && !holds(layout, bytes) ? 1 : 0;
        }
        return new Figures((System.nanoTime() - began) / 1e9, fitted, broken);
    }

    private static DiskSurvey image(Random random) {
        List<SurveyedPartition> parts = new ArrayList<>();
        long at = MIB;
        int count = 1 + random.nextInt(8);
        for (int i = 1; i <= count; i++) {
            long size = (1 + random.nextInt(4000)) * MIB + (random.nextInt(5) == 0 ? 512L * random.nextInt(2048) : 0);
            long used = (long) (size * random.nextDouble()) / 512 * 512;
            Partition partition = new Partition(i, at, size, PartitionType.of("EBD0A0A2-B9E5-4433-87C0-68B6B72699C7"), "",
                "00000000-0000-4000-8000-00000000000" + i, 0, false);
            parts.add(new SurveyedPartition(partition, new FileSystem.Mapped(KINDS.get(random.nextInt(3)), 512, used / 512,
                (size - used) / 512, Extents.range(0, used), List.of()), Extents.range(at, at + used), List.of()));
            at += size + (random.nextInt(4) == 0 ? random.nextInt(900) * MIB : 0);
        }
        long disk = at + 2 * MIB;
        List<Partition> partitions = parts.stream().map(SurveyedPartition::partition).toList();
        PartitionTable table = new PartitionTable.Gpt("00000000-0000-4000-8000-000000000000", 34, disk / 512 - 34, 128, partitions,
            List.of());
        return new DiskSurvey("image", disk, 512, table, parts, List.of(), Extents.NONE, SurveyChoice.USED);
    }

    private static boolean holds(RestoreLayout layout, long bytes) {
        boolean total = layout.partitionBytes() + layout.tableBytes() + layout.alignmentBytes() + layout.unallocatedBytes() == bytes;
        long at = 0;
        boolean placed = true;
        for (Placed each : layout.placed()) {
            placed &= each.to().startBytes() >= at && (!each.moved() || each.to().startBytes() % MIB == 0)
                && each.to().sizeBytes() >= each.from().sizeBytes();
            at = each.to().endBytes();
        }
        return total && placed && at <= bytes;
    }
}
