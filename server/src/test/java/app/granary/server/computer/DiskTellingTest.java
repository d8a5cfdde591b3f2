package app.granary.server.computer;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.DiskRegister;
import app.granary.core.disk.DiskRegister.Doubt;
import app.granary.core.disk.DiskRegister.Entry;
import app.granary.core.disk.DiskRegister.Resolution;
import app.granary.core.inventory.ComputerFacts;
import app.granary.engine.host.Devices;
import app.granary.engine.host.Host;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import app.granary.server.journal.Journal;
import java.io.IOException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class DiskTellingTest {
    /** Its row was made, but nothing said that this attachment is it: it was asked about at every look. */
    @Test
    void aNewDiskIsToldOnceWhateverTheDoubtWas() throws IOException {
        DiskIdentity dock = new DiskIdentity("Dock", "D-1", 1000);
        DiskIdentity bare = new DiskIdentity("Bridge", "", 1000);
        for (Map.Entry<Doubt, DiskIdentity> doubt : Map.of(Doubt.SEVERAL, dock, Doubt.NO_SERIAL, bare).entrySet()) {
            List<Entry> rows = new ArrayList<>(
                List.of(new Entry("a", new DiskIdentity("one", "D-1", 1000)), new Entry("b", new DiskIdentity("two", "D-1", 1000))));
            Map<String, String> tied = new HashMap<>();
            HostDisk disk = new HostDisk("lasting", "port-3-attachment-7", "/dev/sdz", doubt.getValue(), "usb", "3", 100);
            HostComputer computer = new HostComputer("here", "here", "", "", ComputerFacts.UNKNOWN, List.of(disk));
            Devices devices = mock(Devices.class);
            when(devices.computers()).thenReturn(List.of(computer));
            Host host = mock(Host.class);
            when(host.devices()).thenReturn(devices);
            DiskRepository disks = mock(DiskRepository.class);
            when(disks.entries()).thenAnswer(call -> List.copyOf(rows));
            DiskTies ties = mock(DiskTies.class);
            when(ties.all()).thenAnswer(call -> Map.copyOf(tied));
            doAnswer(call -> tied.put(call.getArgument(0), call.getArgument(1))).when(ties).tie(any(), any(), any(), any());
            AttachedDisks attached = mock(AttachedDisks.class);
            when(attached.survey(any())).thenReturn(new AttachedDisks.Found(Optional.empty(), "not read here"));
            DisksOnRecord onRecord = mock(DisksOnRecord.class);
            when(onRecord.find(any())).thenReturn(Optional.empty());
            Inventory inventory = mock(Inventory.class);
            doAnswer(call -> rows.add(new Entry(call.<HostDisk>getArgument(1).id(), call.<HostDisk>getArgument(1).identity())))
                .when(inventory).read(any(), any(), anyInt(), any());
            DisksAtHand atHand = new DisksAtHand(host, disks, ties);
            assertEquals(doubt.getKey(), atHand.look().untold().get(0).doubt().why());
            new DiskTelling(attached, atHand, onRecord, ties, inventory, mock(Journal.class), Clock.systemUTC()).tell(disk.attachment(), "",
                "ada");
            assertEquals(new Resolution.Known(disk.attachment()), new DiskRegister(rows, tied, List.of(disk.seen())).resolve(disk.seen()),
                doubt.getKey().toString());
            assertEquals(List.of(), atHand.look().untold());
        }
    }
}
