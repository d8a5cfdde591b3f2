package app.granary.core.card;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.destination.PlaceKind;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.inventory.ComputerFacts;
import app.granary.core.inventory.Encryption;
import app.granary.core.inventory.Firmware;
import app.granary.core.inventory.KeyPlace;
import app.granary.core.restore.RestoreTime;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class CardTest {
    private static final Instant NOW = Instant.parse("2026-11-24T08:00:00Z");
    private static final ZoneId ZONE = ZoneId.of("Europe/London");
    private static final DiskIdentity DISK = new DiskIdentity("Aldine N1", "7K-0120-TR", 120_034_123_776L);

    private static final RestoreTime.Bytes BYTES = new RestoreTime.Bytes(36_000_000_000L, 60_000_000_000L);
    private static final RestoreTime.Rates RATES = new RestoreTime.Rates(60_000_000, 500_000_000);

    private static CardFacts.Copy copy(String image, int daysAgo, boolean sound, PlaceKind kind, boolean attached) {
        return new CardFacts.Copy(image, NOW.minusSeconds(86_400L * daysAgo), sound, sound ? "readable" : "", "", "PEG-" + daysAgo, kind,
            "", attached, false, BYTES, RATES);
    }

    private static Card card(Encryption encryption, KeyPlace place, List<String> sticks, CardFacts.Copy... copies) {
        ComputerFacts facts = new ComputerFacts("Wren", "Field 12", Firmware.UEFI, "F12", Optional.of(true), "Larch", encryption, place,
            "envelope 4");
        return Card.of(new CardFacts("TRIPOD", "field laptop", "Sable Quist", facts, 10, Optional.of(LocalDate.of(2026, 11, 20)), sticks,
            List.of(new CardFacts.OfDisk("system disk", DISK, List.of(copies), Optional.empty(), List.of()))), NOW, ZONE);
    }

    /**
     * 36 GB over 60 MB/s are 600 s, and 60 GB compared at 500 MB/s 120 s; 25 min of hands and 10 of booting, by hand: 35 + 11 to 35 + 19.
     */
    @Test
    void theNewestSoundImageIsTakenAndTheTimeIsTheSlowerOfLinkAndDisk() {
        Card card = card(Encryption.NONE, KeyPlace.UNKNOWN, List.of("KEY-A, hook"), copy("new", 2, true, PlaceKind.HERE, true),
            copy("old", 9, true, PlaceKind.HERE, true));
        assertEquals("new", card.disks().get(0).image());
        assertEquals(46, card.lowMinutes());
        assertEquals(54, card.highMinutes());
        assertEquals(List.of(), card.inTheWay());
        assertEquals(
            "Everything since Sun 22 Nov 2026, 08:00, 2 days, that has no other backup; files were last backed up on Fri 20 Nov 2026.",
            card.disks().get(0).lost());
        assertTrue(card.steps().stream().anyMatch(step -> step.contains("serial 7K-0120-TR")), card.steps().toString());
        assertEquals("", card.key());
    }

    /** A packed image of one partition, newer than any other, became the card's image of the whole disk. */
    @Test
    void anImageThatLacksAPartStandsForTheDiskOnlyWhereNothingElseDoes() {
        CardFacts.Copy part = new CardFacts.Copy("part", NOW.minusSeconds(86_400), true, "readable", "partly: without recovery", "PEG-1",
            PlaceKind.HERE, "", true, false, BYTES, RATES);
        Card both = card(Encryption.NONE, KeyPlace.UNKNOWN, List.of("KEY-A, hook"), part, copy("whole", 9, true, PlaceKind.HERE, true));
        assertEquals("whole", both.disks().get(0).image());
        assertEquals(List.of(), both.inTheWay());
        Card unproven = card(Encryption.NONE, KeyPlace.UNKNOWN, List.of("KEY-A, hook"), part,
            copy("whole", 9, false, PlaceKind.HERE, true));
        assertEquals("whole", unproven.disks().get(0).image());
        Card alone = card(Encryption.NONE, KeyPlace.UNKNOWN, List.of("KEY-A, hook"), part);
        assertEquals("readable; partly: without recovery", alone.disks().get(0).proven());
        assertEquals(List.of("There is no image of all of system disk, only one that is partly: without recovery."), alone.inTheWay());
    }

    @Test
    void whatStandsInTheWayIsSaid() {
        Card card = card(Encryption.VOLUMES, KeyPlace.SAME_COMPUTER, List.of(), copy("newest", 1, false, PlaceKind.HERE, true),
            copy("proven", 41, true, PlaceKind.OFF_SITE, false));
        String all = String.join("\n", card.inTheWay());
        assertEquals("proven", card.disks().get(0).image());
        assertTrue(all.contains("PEG-41 lies off site: fetching it adds 60 to 120 minutes."), all);
        assertTrue(all.contains("A newer image of system disk, of Mon 23 Nov 2026, 08:00, is not proven yet"), all);
        assertTrue(all.contains("kept on TRIPOD itself"), all);
        assertTrue(all.contains("No rescue stick is known to boot it"), all);
        assertEquals(46 + 60 + 10, card.lowMinutes(), "the travel is added, and encryption");
        assertTrue(card.key().startsWith("Its recovery key: on this same computer"), card.key());
        assertTrue(card.steps().stream().anyMatch(step -> step.startsWith("Switch encryption on again")), card.steps().toString());
    }

    @Test
    void ofTwoCopiesOfOneMomentTheNearerIsTaken() {
        Card card = card(Encryption.NONE, KeyPlace.UNKNOWN, List.of("KEY-A"), copy("a", 3, true, PlaceKind.OFF_SITE, false),
            copy("b", 3, true, PlaceKind.SAFE, false));
        assertEquals("b", card.disks().get(0).image());
        assertEquals("PEG-3, in the fire safe", card.disks().get(0).lies());
    }

    @Test
    void withoutAnyImageThereIsNothingToBringBack() {
        Card card = card(Encryption.UNKNOWN, KeyPlace.UNKNOWN, List.of("KEY-A"));
        assertEquals(0, card.highMinutes());
        assertEquals("There is no image of system disk: everything on it is lost.", card.inTheWay().get(0));
        assertEquals(1, card.steps().size());
    }

    @Test
    void aSpareIsTheQuickestWayBackAndOneNeverTriedIsInTheWay() {
        ComputerFacts facts = new ComputerFacts("", "", Firmware.UEFI, "F12", Optional.of(true), "", Encryption.NONE, KeyPlace.UNKNOWN, "");
        for (boolean booted : new boolean[] {true, false}) {
            CardFacts.OfDisk disk = new CardFacts.OfDisk("system disk", DISK, List.of(copy("a", 1, true, PlaceKind.HERE, true)),
                Optional.empty(), List.of(new CardFacts.Spare("Spare 1, serial 7K-0198-SP", NOW.minusSeconds(86_400), booted,
                    "in the fire safe",
                    booted ? "" : "1.54 kB of the disk could not be read, in 3 places, and are zeros on it")));
            Card card = Card.of(
                new CardFacts("TRIPOD", "field laptop", "Sable Quist", facts, 10, Optional.empty(), List.of("KEY-A"), List.of(disk)), NOW,
                ZONE);
            assertTrue(
                card.steps().get(1)
                    .startsWith("Quickest: put Spare 1, serial 7K-0198-SP, which lies in the fire safe, in the place of system disk."),
                card.steps().get(1));
            assertEquals(!booted, card.inTheWay().stream().anyMatch(each -> each.startsWith("The spare of system disk was never tried")));
            assertEquals(!booted, card.inTheWay()
                .contains("Of the spare of system disk: 1.54 kB of the disk could not be read, in 3 places, and are zeros on it."));
        }
    }

    /** It is gone when the card is needed, and the card says so instead of leading there. */
    @Test
    void anImageOnTheDiskItselfIsToldAndNeverRestoredFrom() {
        ComputerFacts facts = new ComputerFacts("", "", Firmware.UEFI, "F12", Optional.of(true), "", Encryption.NONE, KeyPlace.UNKNOWN, "");
        for (List<CardFacts.Copy> others : List.of(List.<CardFacts.Copy>of(), List.of(copy("old", 30, true, PlaceKind.HERE, true)))) {
            CardFacts.OfDisk disk = new CardFacts.OfDisk("system disk", DISK, others,
                Optional.of(copy("today", 0, true, PlaceKind.HERE, true)), List.of());
            Card card = Card.of(new CardFacts("TRIPOD", "", "", facts, 10, Optional.empty(), List.of("KEY-A"), List.of(disk)), NOW, ZONE);
            assertEquals(others.isEmpty() ? "" : "old", card.disks().get(0).image());
            assertTrue(card.inTheWay().stream().anyMatch(each -> each.startsWith("A quick roll-back image of system disk")
                && each.endsWith("it is dead too.")), card.inTheWay().toString());
            assertTrue(card.steps().stream().noneMatch(each -> each.contains("today")), card.steps().toString());
        }
    }
}
