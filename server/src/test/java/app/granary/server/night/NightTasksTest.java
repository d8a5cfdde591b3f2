package app.granary.server.night;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyBoolean;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.core.destination.Destination;
import app.granary.core.destination.DestinationRules;
import app.granary.core.destination.ImageNeed;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.ComputerFacts;
import app.granary.core.inventory.Firmware;
import app.granary.core.night.NightTask;
import app.granary.core.night.Span;
import app.granary.core.night.Way;
import app.granary.core.plan.Afterwards;
import app.granary.core.plan.FolderPattern;
import app.granary.core.retention.Keeping;
import app.granary.core.plan.NamingPattern;
import app.granary.core.plan.Plan;
import app.granary.core.plan.PlanDestination;
import app.granary.core.plan.PlanSource;
import app.granary.core.plan.Rhythm;
import app.granary.core.plan.Storing;
import app.granary.core.plan.Window;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import app.granary.engine.host.HostEstimate;
import app.granary.engine.host.Storage;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.estimate.LearntEstimates;
import app.granary.server.estimate.Prospect;
import app.granary.server.estimate.Prospects;
import app.granary.server.image.Images;
import app.granary.server.plan.Plans;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class NightTasksTest {
    private static final long GB = 1_000_000_000L;
    private static final DiskIdentity IDENTITY = new DiskIdentity("Halden S2", "22-HS-0501", 500 * GB);
    private static final List<Span> WINDOWS = List
        .of(new Span(Instant.parse("2026-11-24T18:30:00Z"), Instant.parse("2026-11-25T07:00:00Z")));

    private final Prospects prospects = mock(Prospects.class);
    private final LearntEstimates learnt = mock(LearntEstimates.class);
    private final DisksOnRecord disks = mock(DisksOnRecord.class);
    private final Images images = mock(Images.class);
    private final NightTasks tasks = new NightTasks(prospects, learnt, disks, images,
        mock(app.granary.server.agent.ComputersByAgent.class));

    private static Destination drive(String name, boolean attached, long free, long rate) {
        return new Destination(name.toLowerCase(java.util.Locale.ROOT), name, "here", attached, attached, 1000 * GB, free, 0,
            OptionalLong.empty(), rate, Set.of("S-" + name));
    }

    private static Prospect prospect() {
        HostDisk disk = HostDisk.lasting("datum", "disk 1", IDENTITY, "SATA", 20_000_000_000L);
        Prospect.Source source = new Prospect.Source(new HostComputer("c", "DATUM", "", "", ComputerFacts.UNKNOWN, List.of(disk)), disk);
        SizeEstimate size = SizeEstimate.exact(100 * GB, 100 * GB, new SizeEstimate.Overhead(0, 0, 0));
        return new Prospect(source, new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED),
            new HostEstimate(size, 400_000_000), 40, DestinationRules.assess(
                new ImageNeed("DATUM", Set.of("22-HS-0501"), 90 * GB, 100 * GB, 110 * GB, OptionalLong.empty()),
                List.of(drive("PEG-1", true, 800 * GB, 16_000_000_000L), drive("PEG-2", true, 700 * GB,
                    16_000_000_000L), drive("CAIRN", true, 900 * GB, 4_480_000_000L), drive("SMALL", true, 50 * GB, 16_000_000_000L),
                    drive("AWAY", false, 900 * GB, 16_000_000_000L))),
            Map.of());
    }

    private static DisksOnRecord.DiskOnRecord disk(boolean attached) {
        return new DisksOnRecord.DiskOnRecord("datum", UUID.randomUUID(), "DATUM", "file server", "", "disk 1", IDENTITY, "gpt", "SATA",
            120 * GB, false, "F11", Firmware.UEFI, attached, List.of(1));
    }

    private static Plans.Saved plan(boolean inTurn, boolean encrypted, String... drives) {
        return new Plans.Saved(UUID.randomUUID(),
            new Plan("DATUM", PlanSource.of("datum", "DATUM", "disk 1", IDENTITY, Set.of()),
                new Storing("zstd", 3, OptionalLong.empty(), false, false, encrypted),
                java.util.Arrays.stream(drives).map(name -> new PlanDestination(name.toLowerCase(java.util.Locale.ROOT), name)).toList(),
                inTurn, new Rhythm.ByHand(),
                new Window(LocalTime.of(18, 30), LocalTime.of(7, 0)), true, NamingPattern.USUAL, FolderPattern.NONE, 90,
                    Afterwards.NOTHING, List.of(),
                Keeping.ALL, List.of(), ""),
            LocalDate.EPOCH, false, 0);
    }

    private NightTask task(Plans.Saved saved, NightTask.Pin pin) {
        return tasks.of(saved, Duration.ofDays(2), WINDOWS, pin).task();
    }

    private static List<String> ids(List<Way> ways) {
        return ways.stream().map(Way::driveId).toList();
    }

    @BeforeEach
    void attached() throws IOException {
        when(disks.find("datum")).thenReturn(Optional.of(disk(true)));
        when(prospects.forNight(eq("datum"), any(), anyBoolean(), any())).thenReturn(prospect());
        when(images.newestByDestination("datum")).thenReturn(Map.of());
    }

    @Test
    void itsDrivesInItsOrderTheOthersAsHelpThoseAwayAsHelpToo() {
        NightTask task = task(plan(false, false, "CAIRN", "PEG-2", "SMALL", "AWAY"), NightTask.Pin.NONE);
        assertEquals(List.of("cairn", "peg-2"), ids(task.ways()));
        assertEquals(List.of("peg-1"), ids(task.otherWays()));
        assertEquals(List.of("away"), ids(task.awayWays()));
        assertEquals("", task.unfit());
        assertEquals(Duration.ofDays(2), task.overdue());
    }

    /** 100 GB at 4.48 GB/s quickened forty times is 112 MB/s by the clock: 893 s to write, as long to read back; 0.9 to 1.25 of it. */
    @Test
    void timesAreThoseOfTheClock() {
        Way cairn = task(plan(false, false, "CAIRN"), NightTask.Pin.NONE).ways().get(0);
        assertEquals(0.9 * 2 * 100e9 / 112e6, cairn.lowSeconds(), 2);
        assertEquals(1.25 * 2 * 100e9 / 112e6, cairn.highSeconds(), 2);
        assertEquals((cairn.lowSeconds() + cairn.highSeconds()) / 2, cairn.likelySeconds(), 1e-6);
    }

    @Test
    void inTurnMeansTheOneWithoutAnImageOrWithTheOldest() {
        assertEquals(List.of("peg-1"), ids(task(plan(true, false, "PEG-1", "PEG-2"), NightTask.Pin.NONE).ways()));
        when(images.newestByDestination("datum")).thenReturn(Map.of("peg-1", Instant.EPOCH));
        assertEquals(List.of("peg-2"), ids(task(plan(true, false, "PEG-1", "PEG-2"), NightTask.Pin.NONE).ways()));
        when(images.newestByDestination("datum")).thenReturn(Map.of("peg-1", Instant.EPOCH, "peg-2", Instant.EPOCH.plusSeconds(9)));
        NightTask again = task(plan(true, false, "PEG-1", "PEG-2"), NightTask.Pin.NONE);
        assertEquals(List.of("peg-1"), ids(again.ways()));
        assertEquals("peg-2", again.otherWays().get(0).driveId(), "the other of the pair is the first that would help");
    }

    @Test
    void aPinnedDriveIsAllowedThoughThePlanDoesNotNameIt() {
        NightTask task = task(plan(true, false, "PEG-1", "PEG-2"), new NightTask.Pin(Optional.empty(), Optional.of("cairn")));
        assertTrue(ids(task.ways()).contains("cairn"));
    }

    @Test
    void whatCannotRunSaysWhyAndTheNightGoesOn() throws IOException {
        assertTrue(task(plan(false, false, "SMALL"), NightTask.Pin.NONE).unfit().startsWith("SMALL is "), "the room it lacks");
        when(prospects.forNight(eq("datum"), any(), anyBoolean(), any()))
            .thenThrow(Fault.of(Fault.Kind.DAMAGED, "d", "The table of d is damaged. Repair it, or capture every block.").asException());
        assertEquals("DATUM, disk 1 cannot be weighed: The table of d is damaged. Repair it, or capture every block.",
            task(plan(false, false, "PEG-1"), NightTask.Pin.NONE).unfit());
        when(disks.find("datum")).thenReturn(Optional.empty());
        assertEquals("The disk of DATUM, disk 1 is not in this office any more. Change the plan, or pause it.",
            task(plan(false, false, "PEG-1"), NightTask.Pin.NONE).unfit());
    }

    @Test
    void aDiskThatIsNotAttachedYetIsReckonedByWhatIsKnownOfIt() throws IOException {
        when(disks.find("datum")).thenReturn(Optional.of(disk(false)));
        when(learnt.size("datum", 120 * GB, 500 * GB, "zstd")).thenReturn(prospect().size());
        when(prospects.forNight(any(Prospect.Source.class), any(), anyBoolean(), any(HostEstimate.class))).thenAnswer(call -> {
            Prospect.Source source = call.getArgument(0);
            assertEquals(550_000_000, source.disk().readRateBytes(), "SATA's usual rate (common practice, no source)");
            return prospect();
        });
        assertEquals(List.of("peg-1"), ids(task(plan(false, false, "PEG-1"), NightTask.Pin.NONE).ways()));
    }
}
