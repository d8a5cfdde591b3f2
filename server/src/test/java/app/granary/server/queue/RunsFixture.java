package app.granary.server.queue;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.ArgumentMatchers.contains;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.RETURNS_SMART_NULLS;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.timeout;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;
import app.granary.core.claim.Device;
import app.granary.core.claim.DeviceClaim;
import app.granary.core.destination.Destination;
import app.granary.core.destination.DestinationRules;
import app.granary.core.destination.ImageNeed;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.inventory.ComputerFacts;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.preflight.Power;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.Devices;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.Imaging;
import app.granary.engine.host.Host;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import app.granary.engine.host.HostEstimate;
import app.granary.engine.host.Storage;
import app.granary.server.capture.Folders;
import app.granary.server.capture.RunMail;
import app.granary.server.change.Changes;
import app.granary.server.claim.OfficeClaims;
import app.granary.server.capture.CaptureTimes;
import app.granary.server.capture.CaptureWork;
import app.granary.server.capture.PlanWaits;
import app.granary.server.image.Moves;
import app.granary.server.office.OfficeDays;
import app.granary.server.capture.Captures;
import app.granary.server.capture.Preflights;
import app.granary.server.check.CheckWork;
import app.granary.server.check.Checks;
import app.granary.server.check.CopyRuns;
import app.granary.server.copy.CopyWork;
import app.granary.server.repair.RepairWork;
import app.granary.server.run.Runs;
import org.springframework.transaction.support.TransactionOperations;
import app.granary.server.destination.Promises;
import app.granary.server.estimate.Prospect;
import app.granary.server.estimate.Prospects;
import app.granary.server.image.Elsewhere;
import app.granary.server.image.ImageRecords;
import app.granary.server.image.Images;
import app.granary.server.image.RoomMaker;
import app.granary.server.journal.Journal;
import java.io.IOException;
import java.time.Clock;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.plan.Plans;
import com.fasterxml.jackson.databind.ObjectMapper;
import org.springframework.context.ApplicationEventPublisher;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;

/** The queue with all its kinds of work, over a made-up machine with one disk and one drive. */
abstract class RunsFixture {
    static final Storage STORAGE = new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED);
    static final long GB = 1_000_000_000L;
    static final Images.Shelved SHELVED = new Images.Shelved("night", "DATUM", "d", "disk 1", "S-1", "p", "PEG-1", 9, false, "",
        Images.Format.GRANARY, new UUID(0, 1), true);
    final Devices devices = mock(Devices.class);
    final ImageStore store = mock(ImageStore.class);
    final Imaging imaging = mock(Imaging.class);
    final Host host = mock(Host.class);
    final Prospects prospects = mock(Prospects.class);
    final Promises promises = new Promises();
    final Images images = mock(Images.class);
    final ImageRecords imageRecords = mock(ImageRecords.class);
    final Elsewhere elsewhere = mock(Elsewhere.class);
    final Journal journal = mock(Journal.class);
    final RunRepository repository = mock(RunRepository.class);
    final WorkOrderRepository workOrders = mock(WorkOrderRepository.class);
    final Plans plans = mock(Plans.class);
    final DisksOnRecord disks = mock(DisksOnRecord.class);
    final Passphrases passphrases = new Passphrases();
    final RoomMaker trash = mock(RoomMaker.class);
    final ApplicationEventPublisher publisher = mock(ApplicationEventPublisher.class);
    final OfficeClaims office = mock(OfficeClaims.class);
    final Preflights preflights = new Preflights(devices, host, prospects, trash, journal, Clock.systemUTC());
    final Orders orders = new Orders(
        List.of(new CaptureWork(store, imaging, office, preflights, prospects, promises, imageRecords, plans,
        mock(Folders.class), mock(Moves.class, RETURNS_SMART_NULLS), new PlanWaits(plans, disks, mock(OfficeDays.class),
            Clock.systemUTC()), mock(CaptureTimes.class), journal),
            new CheckWork(imaging, office, images, imageRecords, elsewhere), new CopyWork(imaging, office, images, imageRecords, promises,
                mock(Moves.class, RETURNS_SMART_NULLS)),
            new RepairWork(imaging, office, images, imageRecords)),
        workOrders, new ObjectMapper());
    final MachinesJoined machines = mock(MachinesJoined.class);
    final GoingOn goingOn = new GoingOn(machines, orders);
    final RunEnds ends = new RunEnds(orders, goingOn, repository, promises, passphrases, journal, publisher,
        TransactionOperations.withoutTransaction(), Clock.systemUTC());
    final RunQueue queue = new RunQueue(orders, disks, repository, passphrases, ends, new Changes(),
        TransactionOperations.withoutTransaction(), Clock.systemUTC());
    final Restart restart = new Restart(host, queue, orders, ends, repository, goingOn);
    final Runs runs = new Runs(queue, journal);
    final Captures captures = new Captures(store, queue, new RunRecords(repository, journal, Clock.systemUTC()), preflights, disks,
        images, mock(RunMail.class), journal);
    final Checks checks = new Checks(new CopyRuns(queue, images, journal));

    @BeforeEach
    void oneDiskOneDrive() throws IOException {
        HostDisk disk = HostDisk.lasting("d", "disk 1", new DiskIdentity("m", "S-1", 500 * GB), "", 100_000_000);
        SizeEstimate size = SizeEstimate.exact(10 * GB, 10 * GB, new SizeEstimate.Overhead(0, 0, 0));
        Destination drive = new Destination("p", "PEG-1", "here", true, true, 500 * GB, 400 * GB, 0, OptionalLong.empty(), 100_000_000,
            Set.of("S-2"));
        Prospect.Source source = new Prospect.Source(new HostComputer("c", "DATUM", "", "", ComputerFacts.UNKNOWN, List.of(disk)), disk);
        when(prospects.source("d")).thenReturn(source);
        when(prospects.of("d", STORAGE, false)).thenReturn(new Prospect(source, STORAGE, new HostEstimate(size, 200_000_000), 1,
            DestinationRules.assess(new ImageNeed("DATUM", Set.of("S-1"), 1, 2, 10 * GB, OptionalLong.empty()), List.of(drive)), Map.of()));
        when(repository.save(any())).thenAnswer(call -> call.getArgument(0));
        when(host.power()).thenReturn(Power.MAINS);
        when(devices.inUse(any())).thenReturn("");
        when(office.reading(anyString(), anyString())).thenAnswer(call -> List.of(DeviceClaim.read(Device.named(call.getArgument(0),
            call.getArgument(1)))));
        when(office.machineOfDisk(anyString())).thenReturn("");
        when(office.machineOfDestination(anyString())).thenReturn("");
        when(office.storing(anyString(), anyString())).thenAnswer(call -> List.of(DeviceClaim.store(Device.named(call.getArgument(0),
            call.getArgument(1)))));
    }

    void assertEnded(Run run, Run.State state, Journal.Result result, String sentence) {
        verify(journal, timeout(5000)).add(eq("ada"), anyString(), eq("DATUM disk 1"), eq(result), contains(sentence), any());
        assertEquals(state, run.state());
        assertTrue(run.outcome().contains(sentence), run.outcome());
        assertEquals(0, promises.runningBytes("p"));
    }

    Prospect prospect(long freeBytes, boolean attached) throws IOException {
        SizeEstimate size = SizeEstimate.exact(10 * GB, 10 * GB, new SizeEstimate.Overhead(0, 0, 0));
        Destination drive = new Destination("p", "PEG-1", "here", attached, true, 500 * GB, freeBytes, 0, OptionalLong.empty(), 100_000_000,
            Set.of("S-2"));
        return new Prospect(prospects.source("d"), STORAGE, new HostEstimate(size, 200_000_000), 1,
            DestinationRules.assess(new ImageNeed("DATUM", Set.of("S-1"), 1, 2, 10 * GB, OptionalLong.empty()), List.of(drive)), Map.of());
    }
}
