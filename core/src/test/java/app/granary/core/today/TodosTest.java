package app.granary.core.today;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.cover.Cover;
import app.granary.core.destination.PlaceKind;
import app.granary.core.reconciliation.Difference;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

class TodosTest {
    private static final Instant NOW = Instant.parse("2026-11-24T09:00:00Z");
    private static final Optional<Instant> COPIED = Optional.of(NOW.minus(Duration.ofHours(10)));

    private List<TodayFacts.Damaged> damaged = List.of();
    private List<Difference> differences = List.of();
    private List<TodayFacts.Disk> disks = List.of();
    private Set<String> capturing = Set.of();
    private List<TodayFacts.Unfinished> unfinished = List.of();
    private List<TodayFacts.Trouble> troubles = List.of();
    private List<TodayFacts.Unreleased> unreleased = List.of();
    private List<TodayFacts.Drive> drives = List.of();
    private List<TodayFacts.Computer> computers = List.of();
    private List<TodayFacts.Unsigned> unsigned = List.of();
    private Optional<Instant> copied = COPIED;
    private List<TodayFacts.Silent> silent = List.of();

    private List<Todo> todos() {
        return Todos.of(new TodayFacts(NOW, Optional.empty(), Optional.empty(), unsigned, damaged, differences,
            Map.of("peg-1", List.of("a", "b")), disks, capturing, unfinished, troubles, unreleased, drives, List.of(),
            computers, copied, silent));
    }

    /** Each as "kind deed with", in order. */
    private String told() {
        return todos().stream().map(each -> (each.kind().word() + " " + each.deed().word() + " " + String.join(",", each.with())).strip())
            .collect(Collectors.joining("; "));
    }

    private static TodayFacts.Disk disk(Cover.State state, boolean planned, String places) {
        return new TodayFacts.Disk("c", "DATUM", "disk 1", "d", state, planned, state == Cover.State.DUE, "due 3 days ago", places);
    }

    private static TodayFacts.Drive drive(String id, boolean attached, PlaceKind place, int days, int newestDaysAgo) {
        return new TodayFacts.Drive(id, id.toUpperCase(java.util.Locale.ROOT), attached, place, NOW.minus(Duration.ofDays(days)),
            "weekly pair", NOW.minus(Duration.ofDays(newestDaysAgo)));
    }

    private static TodayFacts.Damaged damaged(WayOut way) {
        return new TodayFacts.Damaged("copy", "image", "DATUM-1", "PEG-1", way);
    }

    @Test
    void aQuietMorningIsEmpty() {
        disks = List.of(disk(Cover.State.COVERED, true, ""));
        assertEquals("", told());
        assertEquals("Nothing needs you. 1 of 1 disks covered; 0 due tonight.", Todos.sentence(todos(), disks));
    }

    @Test
    void whatMayBeLostComesFirstAndWhatIsToBeCarriedLast() {
        unsigned = List.of(new TodayFacts.Unsigned("TRIPOD", "TRIPOD-1", "Spare 1", false, ""));
        damaged = List.of(damaged(WayOut.of("DATUM", Optional.of(new WayOut.SoundCopy("other", "CAIRN")), Optional.of(true))));
        differences = List.of(new Difference(Difference.Kind.UNKNOWN_IMAGES, "peg-1", "PEG-1", List.of("x")),
            new Difference(Difference.Kind.MISSING, "peg-1", "PEG-1", List.of("y", "z")));
        disks = List.of(disk(Cover.State.NEVER, false, ""), disk(Cover.State.UNPROVEN, true, ""), disk(Cover.State.LATE, true, ""),
            disk(Cover.State.DUE, true, "proven images lie here only; take a drive with one off site"));
        troubles = List.of(new TodayFacts.Trouble("run", "PLUMB disk", "capture", "x", false, "PEG-3 is full."));
        unreleased = List.of(new TodayFacts.Unreleased("x", "It could not be moved."));
        drives = List.of(drive("peg-1", true, PlaceKind.SAFE, 3, 1), drive("peg-2", false, PlaceKind.HERE, 3, 1));
        copied = Optional.empty();
        assertEquals(
            "restore; damaged repair copy,other; missing write-off a,b; never; unproven check-disk d; failed seen run; overdue; release "
                + "release-again; unknown; place here peg-1; places; copy copy-database",
            told());
        assertEquals("12 things need you. 1 of 4 disks covered; 1 due tonight.", Todos.sentence(todos(), disks));
    }

    @Test
    void aDamagedCopyIsMendedReleasedOrCapturedAgain() {
        WayOut.SoundCopy sound = new WayOut.SoundCopy("other", "CAIRN");
        Map<WayOut, String> cases = Map.of(
            WayOut.of("DATUM", Optional.of(sound), Optional.of(false)), "damaged repair copy,other",
            WayOut.of("DATUM", Optional.empty(), Optional.of(false)), "damaged release image",
            WayOut.of("DATUM", Optional.empty(), Optional.of(true)), "damaged",
            new WayOut(WayOut.Kind.CAPTURE, "", "The rules do not know it."), "damaged");
        cases.forEach((way, expected) -> {
            damaged = List.of(damaged(way));
            assertEquals(expected, told());
            assertTrue(todos().get(0).reason().endsWith(way.sentence()));
        });
        assertEquals(WayOut.Kind.CAPTURE, WayOut.of("DATUM", Optional.empty(), Optional.empty()).kind(),
            "what no rule speaks of is not let go");
    }

    @Test
    void whatIsUnderWayIsNotAskedForAgain() {
        capturing = Set.of("d");
        disks = List.of(disk(Cover.State.LATE, true, ""), disk(Cover.State.NEVER, false, ""), disk(Cover.State.UNPROVEN, true, ""));
        assertEquals("", told());
    }

    @Test
    void aPairThatStaysHereIsToldWhichOneToTakeAway() {
        drives = List.of(drive("peg-1", true, PlaceKind.HERE, 9, 5), drive("peg-2", false, PlaceKind.HERE, 30, 2));
        assertEquals("rotation off-site peg-2", told());
        drives = List.of(drive("peg-1", true, PlaceKind.HERE, 3, 5), drive("peg-2", false, PlaceKind.HERE, 30, 2));
        assertEquals("", told(), "a week is not over for one of them");
        drives = List.of(drive("peg-1", true, PlaceKind.HERE, 9, 5), drive("peg-2", false, PlaceKind.OFF_SITE, 30, 2));
        assertEquals("", told(), "one is away already");
        drives = List.of(drive("peg-1", true, PlaceKind.UNKNOWN, 9, 5), drive("peg-2", false, PlaceKind.HERE, 30, 2));
        assertEquals("", told(), "nobody noted where it lies");
    }

    @Test
    void filesThatWereSavedAMonthAgoAreAskedAfter() {
        computers = List.of(new TodayFacts.Computer("plumb", "PLUMB", Optional.of(LocalDate.of(2026, 10, 23))),
            new TodayFacts.Computer("datum", "DATUM", Optional.of(LocalDate.of(2026, 10, 24))));
        assertEquals("files files-saved plumb", told());
        computers = List.of(new TodayFacts.Computer("plumb", "PLUMB", Optional.empty()),
            new TodayFacts.Computer("ledger", "LEDGER", Optional.empty()));
        assertTrue(todos().get(0).title().startsWith("Files of 2 computers"));
    }

    @Test
    void anUnfinishedCaptureIsToldOnceNotTwice() {
        troubles = List.of(new TodayFacts.Trouble("one", "DATUM disk", "capture", "half", false, "It failed."),
            new TodayFacts.Trouble("two", "DATUM disk", "capture", "secret", true, "It waits for its passphrase."));
        unfinished = List.of(new TodayFacts.Unfinished("DATUM disk", "half", "", true, 0.5));
        assertEquals("unfinished; waiting", told());
    }

    @Test
    void aComputerThatJoinedAndWentSilentIsToldWithWhatToDo() {
        silent = List.of(new TodayFacts.Silent("FELL", NOW.minus(java.time.Duration.ofHours(25))));
        Todo todo = todos().stream().filter(each -> each.kind() == Todo.Kind.SILENT).findFirst().orElseThrow();
        assertEquals("FELL is silent", todo.title());
        assertTrue(todo.reason().startsWith("Its agent has not answered for 25 h."), todo.reason());
    }
}
