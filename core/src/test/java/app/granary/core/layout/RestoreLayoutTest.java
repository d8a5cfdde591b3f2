package app.granary.core.layout;

import static app.granary.core.layout.Images.BASIC;
import static app.granary.core.layout.Images.ESP;
import static app.granary.core.layout.Images.LINUX;
import static app.granary.core.layout.Images.MIB;
import static app.granary.core.layout.Images.RECOVERY;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionTables;
import app.granary.core.disk.TableSectors;
import app.granary.core.disk.TableWriter;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice.Strategy;
import app.granary.core.measure.Reading;
import app.granary.core.measure.Sizes;
import app.granary.core.target.Preparation.StoreFileSystem;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;

class RestoreLayoutTest {
    private static final long GB = 1_000_000_000;

    private static RestoreLayout onto(DiskSurvey image, long bytes, LayoutChoice choice) {
        return RestoreLayout.of(image, LayoutTarget.blank(bytes, 512, Firmware.UNKNOWN), choice);
    }

    private static DiskSurvey usual(long diskBytes) {
        long end = diskBytes - 33 * 512;
        long recovery = 800 * MIB;
        long behind = (end - recovery) / MIB * MIB;
        return new Images(diskBytes, 512).with(1, MIB, 100 * MIB, ESP, "vfat", 30 * MIB, 30 * MIB)
            .with(2, 101 * MIB, 16 * MIB, "E3C9E316-0B5C-4DB8-817D-F92DF00215AE", "unknown", 0, 16 * MIB)
            .with(3, 117 * MIB, behind - 117 * MIB, BASIC, "ntfs", 60 * GB, 90 * GB)
            .with(4, behind, recovery, RECOVERY, "ntfs", 500 * MIB, 700 * MIB).gpt();
    }

    private static List<String> kinds(RestoreLayout layout) {
        return layout.refusals().stream().map(each -> each.kind().word()).toList();
    }

    private static List<Partition> inOrder(PartitionTable table) {
        return table.partitions().stream().sorted(java.util.Comparator.comparingInt(Partition::number)).toList();
    }

    /** 1 TB less 750 GB = 250 GB = 232.83 GiB, shown as "232" (common practice, no source: seen unallocated after such a move). */
    @Test
    void sevenHundredFiftyGigabytesOntoOneTerabyteLeavesTheDifferenceOrNothing() {
        DiskSurvey image = new Images(750 * GB, 512).with(1, MIB, 750 * GB - 33 * 512 - MIB, BASIC, "ntfs", 300 * GB, 400 * GB).gpt();
        RestoreLayout keep = onto(image, 1000 * GB, LayoutChoice.KEEP);
        assertEquals(250 * GB, keep.unallocatedBytes());
        assertEquals("233 GiB", Sizes.format(keep.unallocatedBytes(), Reading.BINARY));
        assertEquals(232.8, Math.round(keep.unallocatedBytes() / Math.pow(2, 30) * 10) / 10.0);
        assertTrue(keep.asItWas() && keep.fits());
        RestoreLayout grown = onto(image, 1000 * GB, LayoutChoice.of(Strategy.GROW));
        assertEquals(0, grown.unallocatedBytes());
        assertEquals(
            "Partition 1 has 250 GB more than its file system uses. It grows into it once all is compared; should the outcome say that it "
                + "could not, use this.",
            grown.steps().get(0).sentence());
        assertEquals("ntfsresize /dev/sdX1", grown.steps().get(0).command());
    }

    /** 6.5 GB used on a 40 GB controller disk goes onto 8 or 32 GB, not 4 GB (common practice, no source). */
    @Test
    void aSmallerTargetIsPossibleAfterShrinkingOnlyAsFarAsTheUsedBytesAllow() {
        DiskSurvey image = new Images(40 * GB, 512).with(1, MIB, 40 * GB - 2 * MIB, "83", "ext4", 6_500_000_000L, 20 * GB).mbr();
        RestoreLayout eight = onto(image, 8 * GB, LayoutChoice.KEEP);
        assertEquals(List.of("shrink-first"), kinds(eight));
        long to = eight.placed().get(0).to().sizeBytes();
        assertTrue(to > 7.9 * GB && to + MIB <= 8 * GB);
        assertEquals("e2fsck -f /dev/sdX1 && resize2fs /dev/sdX1 " + to / 1024 + "K", eight.steps().get(0).command());
        assertTrue(eight.steps().get(0).sentence().contains("Up to 6.50 GB of it lie behind that and are moved by the tool"),
            eight.steps().get(0).sentence());
        assertTrue(
            onto(image, 32 * GB, LayoutChoice.KEEP).steps().get(0).sentence().contains("Nothing in use lies behind that, so it is quick."));
        RestoreLayout four = onto(image, 4 * GB, LayoutChoice.KEEP);
        assertEquals(List.of("too-small"), kinds(four));
        assertTrue(
            four.refusals().get(0).sentence().startsWith("The target has 4.00 GB, and what is in use in the image needs at least 6.8"),
            four.refusals().get(0).sentence());
        for (long size : new long[] {8 * GB, 32 * GB}) {
            RestoreLayout smaller = onto(image, size, LayoutChoice.KEEP.shrinking(true));
            assertTrue(smaller.fits() && smaller.shrinks() && smaller.steps().isEmpty());
            assertTrue(smaller.remarks().stream().anyMatch(each -> each.startsWith("Partition 1 is made ")), smaller.remarks().toString());
            assertTrue(smaller.scratchBytes() >= 6_500_000_000L && smaller.scratchBytes() <= 14 * GB, "" + smaller.scratchBytes());
        }
        assertEquals(List.of("too-small"), kinds(onto(image, 4 * GB, LayoutChoice.KEEP.shrinking(true))));
        // once it is shrunk as advised it fits
        DiskSurvey shrunk = new Images(40 * GB, 512).with(1, MIB, to, "83", "ext4", 6_500_000_000L, to).mbr();
        assertTrue(onto(shrunk, 8 * GB, LayoutChoice.KEEP).fits());
    }

    /** 720 GB of which 150 to 200 GB are used onto 500 GB (common practice, no source); what is shared is shared downwards too. */
    @Test
    void eachGivesInProportionToItsLengthWhereTheyShare() {
        DiskSurvey image = new Images(720 * GB, 512).with(1, MIB, 100 * GB, BASIC, "ntfs", 40 * GB, 60 * GB)
            .with(2, MIB + 100 * GB, 600 * GB, BASIC, "ntfs", 120 * GB, 400 * GB).gpt();
        RestoreLayout shared = onto(image, 500 * GB, LayoutChoice.of(Strategy.SHARE).shrinking(true));
        assertTrue(shared.fits(), shared.refusals().toString());
        double first = shared.placed().get(0).to().sizeBytes() / (100.0 * GB);
        double second = shared.placed().get(1).to().sizeBytes() / (600.0 * GB);
        assertEquals(first, second, 0.001);
        RestoreLayout kept = onto(image, 500 * GB, LayoutChoice.KEEP.shrinking(true));
        assertEquals(100 * GB, kept.placed().get(0).to().sizeBytes());
        assertTrue(kept.fits() && kept.placed().get(1).shrunk());
        RestoreLayout byHand = onto(image, 500 * GB, LayoutChoice.byHand(Map.of(1, 60 * GB)).shrinking(true));
        assertTrue(byHand.fits() && Math.abs(byHand.placed().get(0).to().sizeBytes() - 60 * GB) < MIB, byHand.refusals().toString());
    }

    @Test
    void aRecoveryPartitionBehindTheMainOneMovesToTheEndOrBlocksIt() {
        RestoreLayout moved = onto(usual(256 * GB), 512 * GB, LayoutChoice.of(Strategy.GROW));
        Placed main = moved.placed().get(2);
        Placed recovery = moved.placed().get(3);
        assertTrue(recovery.moved() && !recovery.resized() && recovery.to().startBytes() % MIB == 0);
        assertEquals(recovery.to().startBytes(), main.to().endBytes());
        assertEquals(0, moved.unallocatedBytes());
        assertTrue(moved.remarks().get(0).contains("partition 4 lies behind the main partition and would block its growth"));
        RestoreLayout blocked = onto(usual(256 * GB), 512 * GB, new LayoutChoice(Strategy.GROW, false, Map.of(), Set.of(), false,
            Map.of(), List.of(), false));
        assertFalse(blocked.placed().get(2).resized());
        assertTrue(blocked.remarks().get(0).contains("blocks 256 GB of its growth"), blocked.remarks().toString());
        assertEquals(256.0, blocked.unallocatedBytes() / 1e9, 0.002);
    }

    /** The table stays, so a partition takes the place of the one of its number, whatever its size. */
    @Test
    void aPartitionGoesIntoOneOfAnotherSizeWhereItFits() {
        DiskSurvey image = new Images(100 * GB, 512).with(1, MIB, 200 * MIB, BASIC, "vfat", 40 * MIB, 60 * MIB)
            .with(2, 300 * MIB, 60 * GB, LINUX, "ext4", 10 * GB, 30 * GB).gpt();
        PartitionTable there = new Images(300 * GB, 512).with(1, MIB, 300 * MIB, BASIC, "vfat", 0, 0)
            .with(2, 400 * MIB, 20 * GB, LINUX, "ext4", 0, 0).with(3, 25 * GB, 200 * GB, LINUX, "ext4", 0, 0).gpt().table();
        LayoutTarget target = new LayoutTarget(300 * GB, 512, Firmware.UEFI, there, MIB);
        RestoreLayout larger = RestoreLayout.of(image, target, LayoutChoice.KEEP.only(Set.of(1), true));
        assertTrue(larger.fits() && larger.othersStay() && larger.table() == there, larger.refusals().toString());
        assertEquals(300 * MIB, larger.placed().get(0).to().sizeBytes());
        assertEquals(List.of(2, 3), larger.staying().stream().map(each -> each.number()).toList());
        LayoutChoice second = LayoutChoice.KEEP.only(Set.of(2), true);
        assertEquals(List.of("shrink-first"), kinds(RestoreLayout.of(image, target, second)));
        RestoreLayout smaller = RestoreLayout.of(image, target, second.shrinking(true));
        assertTrue(smaller.fits() && smaller.placed().get(0).shrunk());
        assertEquals(400 * MIB, smaller.placed().get(0).to().startBytes());
        PartitionTable small = new Images(300 * GB, 512).with(2, MIB, 10 * GB, BASIC, "ntfs", 0, 0).gpt().table();
        LayoutTarget tight = new LayoutTarget(300 * GB, 512, Firmware.UEFI, small, MIB);
        assertEquals(List.of("too-small"), kinds(RestoreLayout.of(image, tight, second.shrinking(true))));
        assertTrue(RestoreLayout.of(image, tight, second).remarks().get(0).contains("keeps its own kind"));
        assertEquals(List.of("others-differ"), kinds(RestoreLayout.of(image, tight, LayoutChoice.KEEP.only(Set.of(1), true))));
        PartitionTable odd = new Images(300 * GB, 512).with(2, MIB, 80 * GB, LINUX, "ext4", 0, 0)
            .with(3, 70 * GB, 9 * GB, LINUX, "ext4", 0, 0).gpt().table();
        assertEquals(List.of("table"), kinds(RestoreLayout.of(image, new LayoutTarget(300 * GB, 512, Firmware.UEFI, odd, MIB), second)));
    }

    @Test
    void aPartitionGoesIntoOneOfAnotherNumberWhichNoOtherTakes() {
        DiskSurvey image = new Images(100 * GB, 512).with(1, MIB, 200 * MIB, BASIC, "vfat", 40 * MIB, 60 * MIB)
            .with(2, 300 * MIB, 60 * GB, LINUX, "ext4", 10 * GB, 30 * GB).gpt();
        PartitionTable there = new Images(300 * GB, 512).with(1, MIB, 300 * MIB, BASIC, "vfat", 0, 0)
            .with(3, 25 * GB, 200 * GB, LINUX, "ext4", 0, 0).gpt().table();
        LayoutTarget target = new LayoutTarget(300 * GB, 512, Firmware.UEFI, there, MIB);
        LayoutChoice both = LayoutChoice.KEEP.only(Set.of(1, 2), true);
        assertEquals(List.of("others-differ"), kinds(RestoreLayout.of(image, target, both)));
        RestoreLayout into = RestoreLayout.of(image, target, both.into(Map.of(2, 3)));
        assertTrue(into.fits() && into.table() == there, into.refusals().toString());
        assertEquals(25 * GB, into.placed().get(1).to().startBytes());
        assertEquals(3, into.placed().get(1).to().number());
        assertEquals(List.of("out-of-bounds"), kinds(RestoreLayout.of(image, target, both.into(Map.of(1, 3, 2, 3)))));
        assertEquals(List.of("out-of-bounds"), kinds(RestoreLayout.of(image, target, both.into(Map.of(2, 3))
            .adding(List.of(new NewPartition("DATA", StoreFileSystem.NTFS, 0))))));
    }

    @Test
    void partitionsAreLeftOutAndNewOnesMadeInWhatStaysFree() {
        DiskSurvey image = usual(256 * GB);
        NewPartition data = new NewPartition("DATA", StoreFileSystem.NTFS, 0);
        LayoutChoice choice = LayoutChoice.KEEP.only(Set.of(1, 2, 3), false).adding(List.of(data));
        RestoreLayout layout = onto(image, 512 * GB, choice);
        assertTrue(layout.fits(), layout.refusals().toString());
        assertEquals(4, layout.added().get(0).to().number(), "the number of the one left out is free again");
        assertEquals(0, layout.added().get(0).to().startBytes() % MIB);
        assertEquals(List.of(1, 2, 3, 4), layout.table().partitions().stream().map(Partition::number).toList());
        assertTrue(layout.unallocatedBytes() < 2 * MIB);
        DiskSurvey four = new Images(8 * GB, 512).with(1, MIB, GB, LINUX, "ext4", 0, GB).with(2, 2 * GB, GB, LINUX, "ext4", 0, GB)
            .with(3, 4 * GB, GB, LINUX, "ext4", 0, GB).with(4, 6 * GB, GB, LINUX, "ext4", 0, GB).mbr();
        for (List<NewPartition> bad : List.of(List.of(new NewPartition("a b", StoreFileSystem.NTFS, 0)),
            List.of(new NewPartition("DATA", StoreFileSystem.NTFS, 600 * GB)), List.of(new NewPartition("DATA", StoreFileSystem.NTFS, MIB)),
            List.of(data, data))) {
            assertEquals(List.of("out-of-bounds"), kinds(onto(image, 512 * GB, LayoutChoice.KEEP.adding(bad))), bad.toString());
        }
        assertTrue(onto(four, 16 * GB, LayoutChoice.KEEP.adding(List.of(data))).refusals().get(0).sentence().contains("four partitions"));
    }

    @Test
    void eachRefusalSaysWhatItIsAbout() {
        DiskSurvey image = usual(256 * GB);
        assertEquals(List.of("sector-size"),
            kinds(RestoreLayout.of(image, LayoutTarget.blank(512 * GB, 4096, Firmware.UEFI), LayoutChoice.KEEP)));
        RestoreLayout oneShort = onto(image, 256 * GB - 512, LayoutChoice.KEEP);
        assertEquals(List.of(), kinds(onto(image, 256 * GB, LayoutChoice.KEEP)));
        assertEquals(List.of(),
            kinds(onto(new Images(256 * GB, 512).with(1, MIB, 10 * MIB, LINUX, "ext4", MIB, MIB).gpt(), 256 * GB - 512, LayoutChoice.KEEP)),
            "the tail is free, so it may be missing");
        assertTrue(oneShort.fits() || kinds(oneShort).equals(List.of("shrink-first")));
        DiskSurvey encrypted = new Images(256 * GB, 512)
            .with(1, MIB, 256 * GB - 33 * 512 - MIB, LINUX, "luks", 0, 256 * GB - 33 * 512 - MIB).gpt();
        assertEquals(List.of("too-small"), kinds(onto(encrypted, 256 * GB - 512, LayoutChoice.KEEP)));
        assertTrue(onto(encrypted, 256 * GB - 512, LayoutChoice.KEEP).refusals().get(0).sentence().contains("that is 512 B more"));
        assertEquals(List.of("nothing-chosen"), kinds(onto(image, 512 * GB, LayoutChoice.KEEP.only(Set.of(9), false))));
        assertEquals(List.of("others-differ"), kinds(onto(image, 512 * GB, LayoutChoice.KEEP.only(Set.of(1), true))));
        assertEquals(List.of("out-of-bounds"), kinds(onto(image, 256 * GB, LayoutChoice.byHand(Map.of(1, 2048 * MIB)))));
        assertEquals(List.of("out-of-bounds"), kinds(onto(image, 256 * GB, LayoutChoice.byHand(Map.of(1, 10 * MIB)))));
        assertEquals(List.of("shrink-first"), kinds(onto(image, 256 * GB, LayoutChoice.byHand(Map.of(3, 100 * GB)))));
        DiskSurvey broken = new DiskSurvey("image", 8 * GB, 512,
            new PartitionTable.Damaged("gpt", app.granary.core.fault.Fault.of(app.granary.core.fault.Fault.Kind.DAMAGED, "", "")),
            List.of(), List.of(),
            app.granary.core.disk.Extents.range(0, 8 * GB), app.granary.core.filesystem.SurveyChoice.ALL_BLOCKS);
        assertEquals(List.of("table"), kinds(onto(broken, 8 * GB - 512, LayoutChoice.KEEP)));
        assertTrue(onto(broken, 9 * GB, LayoutChoice.KEEP).asItWas());
    }

    @Test
    void onlySomePartitionsAloneOrBetweenOthersThatStay() {
        DiskSurvey image = usual(256 * GB);
        RestoreLayout alone = onto(image, 512 * GB, LayoutChoice.KEEP.only(Set.of(1, 2), false));
        assertEquals(List.of(1, 2), alone.table().partitions().stream().map(Partition::number).toList());
        RestoreLayout between = RestoreLayout.of(image, new LayoutTarget(256 * GB, 512, Firmware.UEFI, image.table(), RestoreLayout.ALIGN),
            LayoutChoice.KEEP.only(Set.of(1), true));
        assertTrue(between.fits());
        assertEquals(image.table(), between.table());
        assertEquals(1, between.placed().size());
    }

    @Test
    void whatTheFirmwareCannotStartIsSaid() {
        DiskSurvey mbr = new Images(8 * GB, 512).with(1, MIB, 4 * GB, "07", "ntfs", GB, GB).mbr();
        assertTrue(RestoreLayout.of(mbr, LayoutTarget.blank(8 * GB, 512, Firmware.UEFI), LayoutChoice.KEEP).remarks().get(0)
            .contains("firmware is UEFI"));
        assertTrue(RestoreLayout.of(usual(256 * GB), LayoutTarget.blank(256 * GB, 512, Firmware.BIOS), LayoutChoice.KEEP).remarks().get(0)
            .contains("firmware is BIOS"));
        RestoreLayout large = onto(mbr, 3000 * GB, LayoutChoice.of(Strategy.GROW));
        assertEquals(3000 * GB - (1L << 32) * 512, large.unallocatedBytes());
        assertTrue(large.remarks().stream().anyMatch(each -> each.startsWith("An MBR cannot name sectors from 2^32 on: the last 801 GB")),
            large.remarks().toString());
    }

    /** All invariants over random images and targets; what comes out is written as a table and read back by the reader. */
    @RepeatedTest(20)
    void totalsEqualTheDiskNothingOverlapsAndTheTableCanBeWritten(RepetitionInfo seed) throws Exception {
        Random random = new Random(seed.getCurrentRepetition());
        int made = 0;
        for (int n = 0; n < 100; n++) {
            DiskSurvey image = RandomImages.next(random);
            long size = Math.max(4 * MIB, (long) (image.sizeBytes() * (0.3 + random.nextDouble() * 2)) / 512 * 512);
            Strategy strategy = Strategy.values()[random.nextInt(4)];
            List<NewPartition> added = random.nextInt(3) > 0 ? List.of() : List.of(new NewPartition("SPARE-1", StoreFileSystem.EXT4,
                (16 + random.nextInt(4000)) * MIB), new NewPartition("SPARE-2", StoreFileSystem.NTFS, 0));
            LayoutChoice choice = new LayoutChoice(strategy, random.nextBoolean(), Map.of(2, (1 + random.nextInt(5000)) * MIB), Set.of(),
                false, Map.of(), added, random.nextBoolean());
            RestoreLayout layout = onto(image, size, choice);
            if (!layout.fits()) {
                assertFalse(layout.refusals().get(0).sentence().isBlank());
                continue;
            }
            RandomImages.requireSound(image, layout, choice.shrinks());
            assertEquals(added.size(), layout.added().size());
            made += added.size();
            for (Added one : layout.added()) {
                assertTrue(layout.table().partitions().stream().allMatch(each -> each.number() == one.to().number()
                    || each.endBytes() <= one.to().startBytes() || each.startBytes() >= one.to().endBytes()), "containers too");
            }
            if (layout.table() instanceof PartitionTable.Absent) {
                continue;
            }
            byte[] first = new byte[512];
            List<TableSectors> sectors = TableWriter.write(layout.table(), size, 512, first);
            assertEquals(inOrder(layout.table()), inOrder(PartitionTables.read(RandomImages.over(size, sectors))));
        }
        assertTrue(made > 4, "some of them have room for new ones");
    }
}
