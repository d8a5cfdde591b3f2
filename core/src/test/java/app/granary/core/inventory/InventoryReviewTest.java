package app.granary.core.inventory;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;

/** Invented computers and disks. */
class InventoryReviewTest {
    private static final long GB = 1_000_000_000L;

    private static DiskReport disk(String model, String serial, long bytes, PartitionReport... partitions) {
        return new DiskReport(new DiskIdentity(model, serial, bytes), "sda", "sata", 512, "gpt", List.of(partitions), 7);
    }

    private static PartitionReport part(int number, long bytes, String fileSystem, long used) {
        return new PartitionReport(number, 0, bytes, "", "p" + number, fileSystem, used < 0 ? OptionalLong.empty() : OptionalLong.of(used));
    }

    private static ComputerReport computer(String name, DiskReport... disks) {
        return new ComputerReport(name, "", "", Firmware.UEFI, Optional.of(true), "Lark 4", List.of(disks), true, 3);
    }

    private static InventoryReview review(List<ComputerReport> known, ComputerReport... reported) {
        List<KnownDisk> disks = known.stream()
            .flatMap(c -> c.disks().stream().map(d -> new KnownDisk(c.name() + d.identity(), c.name(), d))).toList();
        return InventoryReview.of(known, disks, List.of(reported));
    }

    private static List<String> changes(InventoryReview review) {
        assertTrue(review.acceptable(), review.objections()::toString);
        return review.changes().stream().map(change -> change.kind().word() + ": " + change.sentence()).toList();
    }

    @Test
    void theSameReportAgainChangesNothing() {
        ComputerReport plumb = computer("PLUMB", disk("Aldine", "A1", 500 * GB, part(1, 100 * GB, "ntfs", 70 * GB)),
            disk("Pike", "", 8 * GB));
        assertEquals(List.of(), changes(review(List.of(plumb), computer("plumb ", plumb.disks().toArray(DiskReport[]::new)))));
        assertEquals(List.of("new-computer: PLUMB is new, with 2 disks."), changes(review(List.of(), plumb)));
    }

    @Test
    void usedBytesPartitionsAndFacts() {
        ComputerReport before = computer("PLUMB",
            disk("Aldine", "A1", 500 * GB, part(1, 100 * GB, "ntfs", 70 * GB), part(2, 10 * GB, "ext4", -1), part(3, GB, "", -1)));
        ComputerReport after = new ComputerReport("PLUMB", "", "", Firmware.BIOS, Optional.of(false), "Lark 5", List.of(
            disk("Aldine", "A1", 500 * GB, part(1, 120 * GB, "ntfs", 74 * GB), part(2, 10 * GB, "btrfs", 5), part(4, 3 * GB, "", -1))),
            true, 1);
        assertEquals(List.of(
            "fact-changed: The operating system of PLUMB was Lark 4 and is now Lark 5.",
            "fact-changed: The firmware of PLUMB was uefi and is now bios.",
            "fact-changed: The secure boot of PLUMB was on and is now off.",
            "partition-gone: partition 3 (p3), 1.00 GB, is gone from Aldine A1, 500 GB.",
            "partition-resized: Partition 1 (p1) grew: it was 100 GB and is now 120 GB.",
            "used-changed: Partition 1 (p1): used bytes went up, they were 70.0 GB and are now 74.0 GB.",
            "file-system-changed: Partition 2 (p2) held ext4 and now holds btrfs.",
            "partition-new: partition 4 (p4), 3.00 GB, is new on Aldine A1, 500 GB."), changes(review(List.of(before), after)));
    }

    @Test
    void swappedMovedAndMissingDisks() {
        ComputerReport plumb = computer("PLUMB", disk("Aldine", "A1", 500 * GB));
        ComputerReport datum = computer("DATUM", disk("Halden", "H1", 500 * GB), disk("Halden", "H2", 500 * GB));
        assertEquals(List.of(
            "disk-swapped: Aldine A1, 500 GB was swapped for Aldine A2, 1.00 TB. Images of the old disk stay; the new one has none yet."),
            changes(review(List.of(plumb), computer("PLUMB", disk("Aldine", "A2", 1000 * GB)))));
        assertEquals(List.of("disk-moved: Halden H2, 500 GB was in DATUM and is now in PLUMB."),
            changes(review(List.of(plumb, datum), computer("PLUMB", disk("Aldine", "A1", 500 * GB), disk("Halden", "H2", 500 * GB)),
                computer("DATUM", disk("Halden", "H1", 500 * GB)))));
        assertEquals(List.of("disk-gone: Halden H2, 500 GB is no longer in DATUM. Its images stay."),
            changes(review(List.of(datum), computer("DATUM", disk("Halden", "H1", 500 * GB)))));
        ComputerReport partial = new ComputerReport("DATUM", "", "", Firmware.UNKNOWN, Optional.empty(), "",
            List.of(disk("Halden", "H1", 500 * GB)), false, 0);
        assertEquals(List.of(), changes(review(List.of(datum), partial)), "a report of one disk says nothing of the others");
    }

    @Test
    void alikeDisksAreToldApartBySerialAndOtherwiseNotGuessedAt() {
        ComputerReport twins = computer("KIOSK", disk("Stick", "", 16 * GB), disk("Stick", "", 16 * GB));
        InventoryReview review = review(List.of(), twins);
        assertFalse(review.acceptable());
        assertEquals(7, review.objections().get(0).line());
        assertTrue(review.objections().get(0).sentence().startsWith(
            "Stick without a serial, 16.0 GB is there twice in KIOSK (first on line 7), and without serials the two cannot be told "
                + "apart."));
        assertTrue(review(List.of(), computer("A", disk("S", "1", GB)), computer("B", disk("S", "1", GB))).objections().get(0).sentence()
            .contains("is reported twice"));
        assertTrue(review(List.of(), computer("A"), computer("a")).objections().get(0).sentence().startsWith("a is reported twice"));
        assertEquals(List.of(), changes(
            review(List.of(computer("A", disk("S", "1", GB), disk("S", "2", GB))), computer("A", disk("S", "2", GB), disk("S", "1", GB)))));
    }

    @Test
    void anotherSizeUnderTheSameSerialIsAsked() {
        assertEquals(List.of("fact-changed: The disk with serial 1 was 1.00 GB and is now 2.00 GB. Make sure that it is the same disk."),
            changes(review(List.of(computer("A", disk("S", "1", GB))), computer("A", disk("S", "1", 2 * GB)))));
    }
}
