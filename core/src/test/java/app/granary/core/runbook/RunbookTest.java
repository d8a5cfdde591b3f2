package app.granary.core.runbook;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.card.Card;
import app.granary.core.card.CardFacts;
import app.granary.core.destination.PlaceKind;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.inventory.ComputerFacts;
import app.granary.core.inventory.Encryption;
import app.granary.core.inventory.Firmware;
import app.granary.core.inventory.KeyPlace;
import app.granary.core.restore.RestoreTime;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class RunbookTest {
    private static final Instant NOW = Instant.parse("2026-11-25T09:10:00Z");

    private static final RestoreTime.Bytes BYTES = new RestoreTime.Bytes(30_000_000_000L, 60_000_000_000L);
    private static final RestoreTime.Rates RATES = new RestoreTime.Rates(100_000_000, 200_000_000);

    private static RunbookFacts facts(boolean attached, boolean encrypted, Encryption volumes, List<String> sticks) {
        ComputerFacts computer = new ComputerFacts("Wren & Marlow", "Field 12", Firmware.UEFI, "F12", Optional.of(true), "", volumes,
            KeyPlace.SAFE, "envelope 4");
        return new RunbookFacts("TRIPOD", "field laptop", "Sable Quist", computer, "TRIPOD-disk-20261015", NOW.minusSeconds(41 * 86_400),
            "sound", "OUTPOST", attached ? "on the shelf" : "off site, at the bank", attached, !attached, encrypted, "zstd",
            Optional.of("Spare 1 (serial 7K-0198-SP)"), sticks, 6, BYTES, RATES, List.of("Partition 4 moves."),
            List.of("Grow it: ntfsresize /dev/sdX3"), List.of("The survey of last week opens"));
    }

    /** What matters on every computer, what matters on this one, and for a controller that what it controls works. */
    @Test
    void checksAreThoseOfTheComputer() {
        assertEquals(Runbook.CHECKS, Runbook.checks("office", Encryption.NONE, List.of()));
        List<String> checks = Runbook.checks("Plotter controller", Encryption.VOLUMES, List.of("Paper feeds", Runbook.CHECKS.get(0)));
        assertEquals(List.of("Its function test: what it controls does what it should", "Paper feeds",
            "Encryption is on again, and its new key is kept off the computer"), checks.subList(Runbook.CHECKS.size(), checks.size()));
        assertTrue(Runbook.of(facts(true, false, Encryption.NONE, List.of()), NOW, ZoneId.of("Europe/London")).checks()
            .contains("The survey of last week opens"));
    }

    @Test
    void stepsAreInOrderWithThisOfficesFactsAndMinutesFromItsRates() {
        Runbook book = Runbook.of(facts(false, true, Encryption.VOLUMES, List.of("KEY-A, in the drawer")), NOW, ZoneId.of("Europe/London"));
        assertEquals(
            "Everything on the target is erased. TRIPOD is back as of Thu 15 Oct 2026, 10:10; everything since then, 41 days, is lost "
                + "unless it was saved elsewhere.",
            book.loss());
        List<String> steps = book.steps().stream().map(Runbook.Step::text).toList();
        assertTrue(steps.get(1).equals("Fetch OUTPOST: off site, at the bank.") && book.steps().get(1).lowMinutes() == 60,
            steps.toString());
        assertTrue(
            steps.get(2).contains("from KEY-A, in the drawer. Press F12 at power-on for the boot menu; firmware is UEFI, secure boot on."),
            steps.get(2));
        assertTrue(steps.get(3).contains("type its last four characters. Enter the image's passphrase."), steps.get(3));
        Runbook.Step writes = book.steps().get(5);
        // 30 GB over 100 MB/s and 60 GB at 200 MB/s are 300 s both, and the comparison 300 s more: 10 min, 9 at best
        assertEquals(9, writes.lowMinutes());
        assertEquals(16, writes.highMinutes());
        assertTrue(steps.get(8).contains("switch encryption on again"), steps.toString());
        assertTrue(book.checks().get(6).startsWith("Encryption is on again"));
    }

    /** A card said 34 minutes and the runbook of the same restore 30 to 62. */
    @Test
    void aCardAndTheRunbookOfTheSameRestoreSayTheSameTime() {
        for (Encryption volumes : List.of(Encryption.NONE, Encryption.VOLUMES)) {
            for (boolean attached : new boolean[] {true, false}) {
                RunbookFacts facts = facts(attached, false, volumes, List.of("KEY-A"));
                Runbook book = Runbook.of(facts, NOW, ZoneId.of("UTC"));
                CardFacts.Copy copy = new CardFacts.Copy(facts.image(), facts.madeAt(), true, "sound", "", "OUTPOST",
                    attached ? PlaceKind.HERE : PlaceKind.OFF_SITE, "", attached, false, BYTES, RATES);
                CardFacts.OfDisk disk = new CardFacts.OfDisk("disk", new DiskIdentity("m", "s", 1), List.of(copy), Optional.empty(),
                    List.of());
                Card card = Card.of(new CardFacts("TRIPOD", "", "", facts.facts(), 6, Optional.empty(), List.of("KEY-A"), List.of(disk)),
                    NOW, ZoneId.of("UTC"));
                int growing = 5; // what the layout of this one restore asks for by hand, which a card cannot know
                assertEquals(card.lowMinutes() + growing, book.lowMinutes());
                assertEquals(card.highMinutes() + growing, book.highMinutes());
            }
        }
    }

    @Test
    void theVariantWithoutGranaryNeedsOnlyStandardTools() {
        List<String> plain = Runbook.of(facts(true, false, Encryption.NONE, List.of()), NOW, ZoneId.of("UTC")).without().stream()
            .map(Runbook.Step::command).filter(each -> !each.isEmpty()).toList();
        assertEquals(List.of("lsblk -o NAME,SIZE,MODEL,SERIAL", "cd 'TRIPOD-disk-20261015' && sha256sum -c manifest-sha256.txt",
            "cat data/disk.img* | zstd -dc | dd of=/dev/sdX bs=4M conv=fsync status=progress",
            "sgdisk -e /dev/sdX && sgdisk -v /dev/sdX"), plain);
        assertTrue(Runbook.of(facts(true, true, Encryption.NONE, List.of()), NOW, ZoneId.of("UTC")).without().stream()
            .anyMatch(each -> each.command().startsWith("for p in data/disk.img*.gpg; do gpg -d")));
    }
}
