package app.granary.core.destination;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.machine.Machine;
import app.granary.core.machine.Network;
import app.granary.core.machine.Route;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Set;
import org.junit.jupiter.api.Test;

class DestinationRulesTest {
    private static final long GB = 1_000_000_000L;

    private static Destination drive(String name, long capacity, long free, long rate) {
        return new Destination(name, name, "here", true, true, capacity, free, 0, OptionalLong.empty(), rate, Set.of("S-" + name));
    }

    private static ImageNeed need(long high) {
        return new ImageNeed("DATUM disk 1", Set.of("S-DATUM"), high - GB, high - GB / 2, high, OptionalLong.empty());
    }

    private static RuleOutcome rule(DestinationAssessment assessment, String word) {
        return assessment.rules().stream().filter(r -> r.rule().equals(word)).findFirst().orElseThrow();
    }

    /** 71 GB used, 200 GB free: fine (common practice, no source). The reserve is 2 % or 1 GB, the larger. */
    @Test
    void roomIsComparedWithHighEstimatePlusReserve() {
        assertTrue(DestinationRules.assess(need(71 * GB), drive("A", 500 * GB, 200 * GB, 1)).fit());
        DestinationAssessment exact = DestinationRules.assess(need(190 * GB), drive("A", 500 * GB, 200 * GB, 1));
        assertTrue(exact.fit());
        assertEquals(0, exact.roomAfterBytes());
        DestinationAssessment over = DestinationRules.assess(need(190 * GB + 1), drive("A", 500 * GB, 200 * GB, 1));
        assertFalse(over.fit());
        assertEquals(-1, over.roomAfterBytes());
        assertFalse(DestinationRules.assess(need(10 * GB), drive("small", 20 * GB, 11 * GB - 1, 1)).fit());
        RuleOutcome room = rule(DestinationRules.assess(need(226 * GB), drive("PEG-2", 500 * GB, 210 * GB, 1)), "room");
        assertEquals(
            "PEG-2 is 26.0 GB short: 226 GB at most and 10.0 GB kept in reserve, against 210 GB free. Make room, or choose another.",
            room.sentence());
    }

    /**
     * 6.5 GB used of a controller's 40 GB disk: an image without compression is about 7 GB, and goes onto 8 or 32 GB, not 4 (common
     * practice, no source).
     */
    @Test
    void whatAControllerDiskNeedsGoesByItsUsedBytesNotItsCapacity() {
        ImageNeed need = new ImageNeed("controller", Set.of(), 6_500_000_000L, 6_700_000_000L, 7_000_000_000L, OptionalLong.empty());
        for (long gb : new long[] {4, 8, 32}) {
            DestinationAssessment on = DestinationRules.assess(need, drive(gb + " GB", gb * GB, gb * GB, 35_000_000));
            assertEquals(gb >= 8, on.fit(), on.rules().toString());
        }
        assertEquals(
            "4 GB is 4.00 GB short: 7.00 GB at most and 1.00 GB kept in reserve, against 4.00 GB free. Make room, or choose another.",
            rule(DestinationRules.assess(need, drive("4 GB", 4 * GB, 4 * GB, 1)), "room").sentence());
    }

    @Test
    void aDestinationOfNoCapacityAndAnImageOfNothingAreWeighedToo() {
        assertFalse(DestinationRules.assess(need(GB), drive("dead", 0, 0, 1)).fit());
        ImageNeed nothing = new ImageNeed("blank", Set.of(), 0, 0, 0, OptionalLong.empty());
        assertTrue(DestinationRules.assess(nothing, drive("A", 500 * GB, 200 * GB, 1)).fit());
        assertEquals(List.of(), DestinationRules.assess(nothing, List.of()));
    }

    @Test
    void promisedBytesAreNotFree() {
        Destination promised = new Destination("A", "A", "here", true, true, 500 * GB, 200 * GB, 150 * GB, OptionalLong.empty(), 1,
            Set.of());
        assertEquals(
            "A is 31.0 GB short: 71.0 GB at most and 10.0 GB kept in reserve, against 50.0 GB free and 150 GB more promised already. "
                + "Make room, or choose another.",
            rule(DestinationRules.assess(need(71 * GB), promised), "room").sentence());
        Destination own = drive("A", 500 * GB, 20 * GB, 1).holding(60 * GB);
        DestinationAssessment again = DestinationRules.assess(need(60 * GB), own);
        assertEquals(10 * GB, again.roomAfterBytes(), "what its own run has written there is there for it");
        assertEquals(
            "Room enough on A: 60.0 GB at most and 10.0 GB kept in reserve, against 80.0 GB free, with 60.0 GB that this image's run has "
                + "written.", rule(again, "room").sentence());
        assertThrows(IllegalArgumentException.class, () -> own.promising(-1));
        assertThrows(IllegalArgumentException.class, () -> own.holding(-1));
    }

    @Test
    void neverOntoItself() {
        Destination itself = new Destination("D", "folder on DATUM", "here", true, true, 500 * GB, 400 * GB, 0, OptionalLong.empty(), 1,
            Set.of("S-DATUM"));
        RuleOutcome outcome = rule(DestinationRules.assess(need(GB), itself), "not-itself");
        assertFalse(outcome.holds());
        assertEquals("folder on DATUM lies on DATUM disk 1, the disk being imaged; an image there would die with it. Choose another drive.",
            outcome.sentence());
    }

    @Test
    void whatIsNotAttachedOrNotWritableIsRefusedWithItsReason() {
        Destination away = new Destination("P", "PEG-2", "in the safe", false, true, 500 * GB, 400 * GB, 0, OptionalLong.empty(), 1,
            Set.of());
        Destination locked = new Destination("P", "PEG-2", "here", true, false, 500 * GB, 400 * GB, 0, OptionalLong.empty(), 1, Set.of());
        assertEquals("PEG-2 is not attached (in the safe). Attach it, or choose another.",
            rule(DestinationRules.assess(need(GB), away), "attached").sentence());
        assertEquals("PEG-2 is attached but cannot be written. Check its lock switch and its permissions.",
            rule(DestinationRules.assess(need(GB), locked), "attached").sentence());
    }

    /** FAT32: 4 294 967 295 bytes (FAT specification 1.03: the directory entry's length is 32 bits). */
    @Test
    void longFilesNeedSplittingOnFat() {
        Destination fat = new Destination("P", "PEG-3", "here", true, true, 500 * GB, 400 * GB, 0, OptionalLong.of(4_294_967_295L), 1,
            Set.of());
        RuleOutcome outcome = rule(DestinationRules.assess(need(10 * GB), fat), "file-size");
        assertFalse(outcome.holds());
        assertEquals("The file system of PEG-3 ends a file at 4294967295 bytes. Split the image into parts of at most that.",
            outcome.sentence());
        ImageNeed split = new ImageNeed("D", Set.of(), 1, 2, 10 * GB, OptionalLong.of(4_000_000_000L));
        assertTrue(DestinationRules.assess(split, fat).fit());
    }

    @Test
    void theFitAreRankedByTimeThenRoomAndTheRestFollow() {
        List<DestinationAssessment> all = DestinationRules.assess(need(50 * GB), List.of(drive("slow", 900 * GB, 800 * GB, 35_000_000),
            drive("full", 500 * GB, 20 * GB, 400_000_000), drive("quick", 500 * GB, 300 * GB, 400_000_000),
            drive("roomy", 900 * GB, 800 * GB, 400_000_000)));
        assertEquals(List.of("roomy", "quick", "slow", "full"), all.stream().map(a -> a.destination().name()).toList());
        assertEquals(List.of(1, 2, 3, 0), all.stream().map(DestinationAssessment::rank).toList());
        assertEquals(
            "Ranked by these in turn, the first that differs decides: apart from other images of this disk (yes); health (nothing "
                + "noted); time over its link (2 min to write); room left (732 GB).",
            all.get(0).rankSentence());
    }

    @Test
    void encryptionIsDemandedWhereADriveLeavesTheBuildingAndADriveMayBeKeptForSome() {
        Destination leaving = drive("OUTPOST", 900 * GB, 800 * GB, 1).described("off site", new Destination.Notes(true, Map.of(), "", ""));
        ImageNeed plain = with(false, true, "MERIDIAN");
        RuleOutcome refused = rule(DestinationRules.assess(plain, leaving), "encrypted");
        assertFalse(refused.holds());
        assertEquals("OUTPOST leaves the building, and this office wants images encrypted there. Encrypt the image, or choose another.",
            refused.sentence());
        assertTrue(DestinationRules.assess(with(true, true, "MERIDIAN"), leaving).fit());
        assertTrue(DestinationRules.assess(with(false, false, "MERIDIAN"), leaving).fit());
        assertTrue(DestinationRules.assess(plain, drive("PEG-1", 900 * GB, 800 * GB, 1)).fit());

        Destination kept = drive("SERVERS", 900 * GB, 800 * GB, 1).described("here",
            new Destination.Notes(false, Map.of("1", "DATUM", "2", "CAIRN"), "", ""));
        assertEquals("SERVERS is kept for CAIRN, DATUM. Choose another, or change who may use it.",
            rule(DestinationRules.assess(with(false, false, "MERIDIAN"), kept), "may-use").sentence());
        assertTrue(DestinationRules.assess(with(false, false, "1"), kept).fit());
    }

    @Test
    void aNetworkThatIsCrossedTakesItsTime() {
        Machine tripod = new Machine("t", "TRIPOD", Optional.of(new Network(10_000_000, 90_000_000)));
        Machine fell = new Machine("f", "FELL", Optional.empty());
        Destination office = drive("SHELF", 900 * GB, 800 * GB, 400_000_000);
        Destination own = drive("PEG-1", 900 * GB, 800 * GB, 35_000_000).in(tripod);
        Destination others = drive("PEG-2", 900 * GB, 800 * GB, 400_000_000).in(fell);
        ImageNeed need = new ImageNeed("TRIPOD disk 1", Set.of(), 9 * GB, 10 * GB, 11 * GB, OptionalLong.empty(),
            new ImageNeed.Circumstances("", false, false, Set.of(), tripod, Set.of()));
        List<DestinationAssessment> all = DestinationRules.assess(need, List.of(office, own, others));
        assertEquals(List.of("PEG-1", "PEG-2", "SHELF"), all.stream().map(a -> a.destination().name()).toList(),
            "35 MB/s on the spot is sooner there than 10 MB/s over the network");
        assertEquals(List.of(1, 2, 3), all.stream().map(DestinationAssessment::rank).toList());
        assertEquals(1000, seconds(Route.between(tripod, fell)), "what was measured of a way is no faster for what was not");
        assertEquals("The bytes cross the network from TRIPOD to FELL, by way of Granary's own machine; how fast that is has not been "
            + "measured yet.", Route.between(tripod, fell).sentence());
        assertEquals("The bytes cross the network from TRIPOD to Granary's own machine, measured at 10.0 MB a second.",
            Route.between(tripod, Machine.OFFICE).sentence());
        assertEquals(OptionalLong.of(90_000_000), Route.between(Machine.OFFICE, tripod).crossing());
        assertEquals("Both are in TRIPOD: nothing crosses the network but words.", Route.between(tripod, tripod).sentence());
        assertEquals("Nothing crosses the network.", Route.between(Machine.OFFICE, Machine.OFFICE).sentence());
    }

    private static long seconds(Route route) {
        return 10 * GB / route.slowed(400_000_000);
    }

    private static ImageNeed with(boolean encrypted, boolean demanded, String computer) {
        return new ImageNeed("disk", Set.of(), 9 * GB, 10 * GB, 11 * GB, OptionalLong.empty(),
            new ImageNeed.Circumstances(computer, encrypted, demanded, Set.of("PEG-1"), Machine.OFFICE, Set.of()));
    }

    @Test
    void rankingIsLexicographicApartFromCopiesThenHealthThenTimeThenRoom() {
        Destination ailing = drive("PEG-2", 900 * GB, 800 * GB, 400_000_000).described("here",
            new Destination.Notes(false, Map.of(), "two bad sectors", ""));
        List<DestinationAssessment> all = DestinationRules.assess(with(false, false, ""),
            List.of(drive("PEG-1", 900 * GB, 800 * GB, 400_000_000), ailing, drive("CAIRN", 900 * GB, 100 * GB, 112_000_000)));
        assertEquals(List.of("CAIRN", "PEG-2", "PEG-1"), all.stream().map(a -> a.destination().name()).toList());
        assertEquals(
            "Ranked by these in turn, the first that differs decides: apart from other images of this disk (no, it holds one); health "
                + "(nothing noted); time over its link (25 s to write); "
                + "room left (771 GB).",
            all.get(2).rankSentence());
    }

    /** On a partition of the disk itself there is room for one thing, beside what is imaged, and it comes after every other drive. */
    @Test
    void theDiskItselfTakesAQuickRollBackImageBesideWhatIsImaged() {
        Destination on = new Destination("D", "DATA", "here", true, true, 500 * GB, 400 * GB, 0, OptionalLong.empty(), 1_000_000_000,
            Set.of("S-DATUM")).onPartition(OptionalInt.of(3));
        Destination two = new Destination("E", "SET", "here", true, true, 500 * GB, 400 * GB, 0, OptionalLong.empty(), 1,
            Set.of("S-DATUM", "S-OTHER")).onPartition(OptionalInt.of(3));
        Destination slow = drive("PEG-2", 500 * GB, 400 * GB, 1);
        for (Set<Integer> without : List.of(Set.<Integer>of(), Set.of(2), Set.of(2, 3))) {
            ImageNeed need = new ImageNeed("DATUM disk 1", Set.of("S-DATUM"), 9 * GB, 10 * GB, 11 * GB, OptionalLong.empty(),
                new ImageNeed.Circumstances("", false, false, Set.of(), Machine.OFFICE, without));
            List<DestinationAssessment> all = DestinationRules.assess(need, List.of(on, two, slow));
            assertEquals("PEG-2", all.get(0).destination().name(), "however slow it is");
            DestinationAssessment itself = all.stream().filter(each -> each.destination().id().equals("D")).findFirst().orElseThrow();
            assertEquals(without.contains(3), itself.fit());
            assertEquals(without.contains(3), itself.rollBack());
            assertTrue(rule(itself, "not-itself").sentence().contains(without.contains(3) ? "is lost with the disk"
                : "leave partition 3 out for a quick roll-back image"), rule(itself, "not-itself").sentence());
            assertFalse(all.stream().anyMatch(each -> each.destination().id().equals("E") && each.fit()), "a set of disks is no partition");
        }
    }
}
