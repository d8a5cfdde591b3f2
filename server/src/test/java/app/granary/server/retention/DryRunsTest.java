package app.granary.server.retention;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.core.retention.Keep;
import app.granary.core.retention.Keeping;
import app.granary.core.plan.OfficeCalendar;
import app.granary.core.plan.Plan;
import app.granary.core.plan.PlanSource;
import app.granary.core.image.Lacks;
import app.granary.core.proof.Evidence;
import app.granary.core.proof.ProofLevel;
import app.granary.core.proof.Standing;
import app.granary.server.image.Images;
import app.granary.server.office.OfficeChoices;
import app.granary.server.office.OfficeDays;
import app.granary.server.plan.Plans;
import java.time.Clock;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.mockito.Answers;

class DryRunsTest {
    private static final Instant NOW = Instant.parse("2026-11-25T12:00:00Z");

    private final Images images = mock(Images.class);
    private final Plans plans = mock(Plans.class);
    private final OfficeDays office = mock(OfficeDays.class, Answers.RETURNS_DEEP_STUBS);
    private final ImageHoldRepository holds = mock(ImageHoldRepository.class);
    private final OfficeChoices choices = mock(OfficeChoices.class);
    private final Releases releases = mock(Releases.class);
    private final RetentionController controller = new RetentionController(
        new DryRuns(images, holds, List.of(Map::of), plans, choices, office, Clock.fixed(NOW, ZoneOffset.UTC)), releases,
        mock(Holds.class), choices);

    @BeforeEach
    void office() {
        when(choices.keeping()).thenReturn(Keeping.ALL);
        when(office.days().calendar()).thenReturn(
            new OfficeCalendar(ZoneId.of("Europe/London"), LocalTime.of(8, 0), LocalTime.of(18, 0), Set.of(DayOfWeek.MONDAY), Set.of()));
    }

    private static Images.Standings image(String disk, int daysAgo, boolean ok, boolean paper) {
        Instant at = NOW.minus(Duration.ofDays(daysAgo));
        return new Images.Standings(UUID.randomUUID(), disk + "-" + daysAgo, "DATUM", disk, disk, "peg", "PEG-1", at, false, 90,
            UUID.randomUUID(), paper,
            Standing.of(List.of(new Evidence(ProofLevel.READABLE, ok, at, "ada", "PEG-1", 1)), 90), 1_000_000_000L, Lacks.NOTHING);
    }

    private static Map<String, List<Images.Standings>> byDisk(Images.Standings... all) {
        return java.util.Arrays.stream(all).collect(java.util.stream.Collectors.groupingBy(Images.Standings::diskId));
    }

    private static Plans.Saved plan(String disk, Keep keep) {
        Plan plan = mock(Plan.class);
        PlanSource source = mock(PlanSource.class);
        when(source.diskId()).thenReturn(disk);
        when(plan.source()).thenReturn(source);
        when(plan.keep()).thenReturn(Keeping.of(keep));
        return new Plans.Saved(UUID.randomUUID(), plan, LocalDate.EPOCH, false, 1);
    }

    @Test
    void eachDiskGoesByItsPlansAndWhatGoesIsCountedByDrive() {
        when(images.standingsByDisk()).thenReturn(byDisk(image("a", 0, false, false), image("a", 1, true, false),
            image("a", 2, true, false), image("a", 3, true, false), image("b", 9, true, false),
            image("b", 99, true, false), image("a", 400, true, true)));
        List<Plans.Saved> two = List.of(plan("a", new Keep(1, 0, 0, 0, 0)), plan("a", new Keep(0, 2, 0, 0, 0)));
        when(plans.all()).thenReturn(two);
        RetentionController.DryRun run = controller.dryRun();
        assertEquals(List.of(false, true, true, false),
            run.disks().get(0).images().stream().map(RetentionController.KeptLine::kept).toList(),
            "a damaged one stands for nothing; any of two plans keeps");
        assertEquals(List.of("Kept are the last one, and the newest proven one always stays.",
            "Kept are the newest proven of 2 days, and the newest proven one always stays."), run.disks().get(0).policies());
        assertEquals(List.of("Every image is kept."), run.disks().get(1).policies(), "no plan, so the office's rule");
        assertTrue(run.disks().get(1).images().stream().allMatch(RetentionController.KeptLine::kept));
        assertEquals(List.of(new RetentionController.GivenBack("PEG-1", 2, 2_000_000_000L)), run.back());
        assertTrue(run.sentence().startsWith("2 of 6 images could go"), run.sentence());
        when(images.standingsByDisk()).thenReturn(Map.of());
        assertEquals("There is no image yet to keep or release.", controller.dryRun().sentence());
    }
}
