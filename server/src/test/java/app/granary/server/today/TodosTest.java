package app.granary.server.today;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.core.destination.Destination;
import app.granary.core.destination.PlaceKind;
import app.granary.core.inventory.ComputerFacts;
import app.granary.core.proof.Evidence;
import app.granary.core.proof.ProofLevel;
import app.granary.core.proof.Standing;
import app.granary.server.computer.ComputersOnRecord;
import app.granary.server.database.Copies;
import app.granary.server.destination.Destinations;
import app.granary.server.image.Images;
import app.granary.server.journal.JournalEndFile;
import app.granary.server.plan.Plans;
import app.granary.server.retention.DamagedImages;
import app.granary.server.reconciliation.Reconciliation;
import app.granary.server.rescue.RescueMedia;
import app.granary.server.restore.Restorations;
import app.granary.server.retention.Releases;
import app.granary.server.run.Runs;
import app.granary.server.run.Troubles;
import app.granary.server.run.UnfinishedController;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.mockito.Answers;

class TodosTest {
    private static final Instant NOW = Instant.parse("2026-11-24T09:00:00Z");

    private final Troubles troubles = mock(Troubles.class);
    private final Runs runs = mock(Runs.class);
    private final Releases releases = mock(Releases.class);
    private final Reconciliation reconciliation = mock(Reconciliation.class);
    private final DamagedImages damaged = mock(DamagedImages.class);
    private final Destinations destinations = mock(Destinations.class);
    private final ComputersOnRecord computers = mock(ComputersOnRecord.class);
    private final Plans plans = mock(Plans.class);
    private final Copies copies = mock(Copies.class);
    private final RescueMedia media = mock(RescueMedia.class);
    private final Restorations restorations = mock(Restorations.class);
    private final JournalEndFile journalEnd = mock(JournalEndFile.class);
    private final Todos todos = new Todos(troubles, runs, releases, reconciliation, damaged, destinations, computers, plans, copies, media, restorations, journalEnd, Clock.fixed(NOW, ZoneOffset.UTC));

    @BeforeEach
    void nothingIsWrong() throws IOException {
        when(copies.newest()).thenReturn(Optional.of(NOW.minus(Duration.ofHours(10))));
        when(destinations.now()).thenReturn(List.of());
        when(troubles.since(any())).thenReturn(List.of());
    }

    private List<String> kinds(List<Images.Standings> standings, CoverLines.CoverLine... cover) throws IOException {
        return todos.of(List.of(), standings, List.of(cover)).stream().map(Todo::kind).toList();
    }

    private static Images.Standings image(boolean ok, String drive, int daysAgo) {
        Instant at = NOW.minus(Duration.ofDays(daysAgo));
        return new Images.Standings(UUID.randomUUID(), "image", "DATUM", "disk", "d", drive, drive.toUpperCase(java.util.Locale.ROOT), at, false, 90, UUID.randomUUID(), false,
            Standing.of(List.of(new Evidence(ProofLevel.SOUND, ok, at, "ada", drive, 1)), 90), 1, app.granary.core.image.Lacks.NOTHING);
    }

    private static CoverLines.CoverLine cover(String state, LocalDate due, String places) {
        return new CoverLines.CoverLine(UUID.randomUUID(), "DATUM", "disk 1", "d", NOW, 3, false, "PEG-1", due, state, "due 3 days ago", places);
    }

    private void drives(boolean attached, PlaceKind one, int oneDays, PlaceKind other, int otherDays) throws IOException {
        when(destinations.now()).thenReturn(List.of(drive("peg-1", attached), drive("peg-2", false)));
        when(destinations.places()).thenReturn(Map.of("peg-1", place(one, oneDays), "peg-2", place(other, otherDays)));
    }

    private static Destination drive(String id, boolean attached) {
        return new Destination(id, id.toUpperCase(java.util.Locale.ROOT), "", attached, true, 1, 1, 0, OptionalLong.empty(), 1, Set.of(), Destination.Notes.NONE);
    }

    private static Destinations.Place place(PlaceKind kind, int days) {
        return new Destinations.Place(kind, "", NOW.minus(Duration.ofDays(days)), "weekly pair", Destination.Notes.NONE);
    }

    @Test
    void aQuietMorningIsEmpty() throws IOException {
        assertEquals(List.of(), kinds(List.of(image(true, "peg-1", 1)), cover("covered", LocalDate.of(2026, 11, 30), "")));
    }

    @Test
    void whatMayBeLostComesFirstAndWhatIsToBeCarriedLast() throws IOException {
        when(damaged.ways(any())).thenAnswer(asked -> asked.<List<Images.Standings>>getArgument(0).stream().collect(Collectors.toMap(Images.Standings::id,
            each -> new DamagedImages.Way(DamagedImages.Kind.MEND, "copy-id", "A sound copy lies on CAIRN."))));
        when(troubles.since(any())).thenReturn(List.of(new Troubles.Trouble(UUID.randomUUID(), "PLUMB disk", "capture", "x", false, "PEG-3 is full.")));
        when(releases.troubled()).thenReturn(List.of(new Releases.Troubled("x", "It could not be moved.")));
        when(copies.newest()).thenReturn(Optional.empty());
        drives(true, PlaceKind.SAFE, 3, PlaceKind.HERE, 3);
        assertEquals(List.of("damaged", "never", "unproven", "failed", "overdue", "release", "place", "places", "copy"), kinds(List.of(image(false, "peg-1", 1)), cover("never", null, ""), cover("unproven", null, ""),
            cover("late", LocalDate.of(2026, 11, 21), ""), cover("covered", null, "proven images lie here only; take a drive with one off site")));
    }

    @Test
    void aDamagedImageIsMendedReleasedOrCapturedAgain() throws IOException {
        Images.Standings image = image(false, "peg-1", 1);
        for (DamagedImages.Kind kind : DamagedImages.Kind.values()) {
            when(damaged.ways(List.of(image))).thenReturn(Map.of(image.id(), new DamagedImages.Way(kind, "other", "Because.")));
            Todo todo = todos.of(List.of(), List.of(image), List.of()).get(0);
            assertEquals(switch (kind) {
                case MEND -> "mend " + image.id() + ",other";
                case RELEASE -> "release " + image.imageId();
                case CAPTURE -> " ";
            }, todo.verb() + " " + todo.subject());
            assertTrue(todo.reason().endsWith("Because."));
        }
    }

    @Test
    void whatIsUnderWayIsNotAskedForAgain() throws IOException {
        when(runs.capturing()).thenReturn(Set.of("d"));
        assertEquals(List.of(), kinds(List.of(), cover("late", LocalDate.of(2026, 11, 21), ""), cover("never", null, ""), cover("unproven", null, "")));
    }

    @Test
    void aPairThatStaysHereIsToldWhichOneToTakeAway() throws IOException {
        drives(true, PlaceKind.HERE, 9, PlaceKind.HERE, 30);
        List<Todo> asked = todos.of(List.of(), List.of(image(true, "peg-1", 5), image(true, "peg-2", 2)), List.of());
        assertEquals(List.of("rotation off-site peg-2"), asked.stream().map(each -> each.kind() + " " + each.verb() + " " + each.subject()).toList());
        drives(true, PlaceKind.HERE, 3, PlaceKind.HERE, 30);
        assertEquals(List.of(), kinds(List.of()), "a week is not over for one of them");
        drives(true, PlaceKind.HERE, 9, PlaceKind.OFF_SITE, 30);
        assertEquals(List.of(), kinds(List.of()), "one is away already");
        drives(true, PlaceKind.UNKNOWN, 9, PlaceKind.HERE, 30);
        assertEquals(List.of(), kinds(List.of()), "nobody noted where it lies");
    }

    @Test
    void filesAreAskedAfterOnlyForComputersThatArePlanned() throws IOException {
        Plans.Saved saved = new Plans.Saved(UUID.randomUUID(), mock(app.granary.core.plan.Plan.class, Answers.RETURNS_DEEP_STUBS), LocalDate.EPOCH, false, 0);
        when(saved.plan().source().computer()).thenReturn("PLUMB");
        when(plans.all()).thenReturn(List.of(saved));
        UUID plumb = UUID.randomUUID();
        when(computers.all()).thenReturn(List.of(new ComputersOnRecord.ComputerOnRecord(plumb, "PLUMB", "", "", ComputerFacts.UNKNOWN, Optional.of(LocalDate.of(2026, 10, 1))),
            new ComputersOnRecord.ComputerOnRecord(UUID.randomUUID(), "OTHER", "", "", ComputerFacts.UNKNOWN, Optional.empty())));
        List<Todo> asked = todos.of(List.of(), List.of(), List.of());
        assertEquals(1, asked.size());
        assertEquals("files-saved " + plumb, asked.get(0).verb() + " " + asked.get(0).subject());
        when(computers.all()).thenReturn(List.of(new ComputersOnRecord.ComputerOnRecord(plumb, "PLUMB", "", "", ComputerFacts.UNKNOWN, Optional.of(LocalDate.of(2026, 11, 1)))));
        assertEquals(List.of(), kinds(List.of()));
    }

    @Test
    void anUnfinishedCaptureIsToldOnceNotTwice() throws IOException {
        when(troubles.since(any())).thenReturn(List.of(new Troubles.Trouble(UUID.randomUUID(), "DATUM disk", "capture", "half", false, "It failed."),
            new Troubles.Trouble(UUID.randomUUID(), "DATUM disk", "capture", "secret", true, "It waits for its passphrase.")));
        List<UnfinishedController.UnfinishedLine> left = List.of(new UnfinishedController.UnfinishedLine("peg-1", "PEG-1", "half", "DATUM disk", true, "", 1, 0.5, false, "", true));
        assertEquals(List.of("unfinished", "waiting"), todos.of(left, List.of(), List.of()).stream().map(Todo::kind).toList());
    }
}
