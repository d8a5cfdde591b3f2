package app.granary.agent;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.destination.Destination;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.inventory.ComputerFacts;
import app.granary.core.machine.Network;
import app.granary.core.preflight.Power;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import app.granary.engine.line.HostState;
import app.granary.engine.progress.Progress;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import java.util.concurrent.locks.LockSupport;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import org.junit.jupiter.api.Test;

class ConsolePageTest {
    private static final HostDisk DISK = HostDisk.lasting("d", "/dev/sda", new DiskIdentity("Aldine N1", "7K-0198", 512_110_190_592L),
        "sata", 500_000_000);
    private static final HostState STATE = new HostState(
        new HostComputer("t", "TRIPOD", "", "", ComputerFacts.UNKNOWN, List.of(DISK)), List.of(), Map.of("d", "mounted at /"),
        List.of(new Destination("p", "PEG-1", "/media/PEG-1", true, true, 500_000_000_000L, 312_000_000_000L, 0, OptionalLong.empty(), 1,
        Set.of())), List.of(), Power.MAINS);

    /** Two at once had one rate between them. */
    @Test
    void eachWorkHasARateOfItsOwn() {
        ConsolePage.ProgressLines lines = new ConsolePage.ProgressLines();
        UUID slow = new UUID(0, 1);
        UUID other = new UUID(0, 2);
        lines.of(Map.of(slow, step(0), other, step(0)), false);
        LockSupport.parkNanos(300_000_000);
        ConsolePage.Work both = lines.of(new TreeMap<>(Map.of(slow, step(1_000_000), other, step(900_000_000))), true);
        assertTrue(both.lines().get(0).matches("Capturing: 1.00 MB of 1.20 GB, 1.00 MB written, [0-3][.][0-9]+ MB/s.*"), both.toString());
        assertTrue(both.lines().get(1).matches("Capturing: 900 MB of 1.20 GB, 900 MB written, .*[0-9] [MG]B/s.*"), both.toString());
        assertTrue(page(true).lines(STATE, both, "").get(5).startsWith("Now       held. Capturing: 1.00 MB"));
        assertEquals(List.of(), lines.of(Map.of(), false).lines());
    }

    private static Progress step(long done) {
        return new Progress(Progress.Stage.CAPTURING, done, 1_200_000_000L, done);
    }

    private static ConsolePage page(boolean reached) {
        return new ConsolePage("TRIPOD", "Level & Chain", "https://10.0.0.5:8471", "17:52", reached,
            Optional.of(new Network(112_000_000, 115_000_000)));
    }

    @Test
    void itTellsWhatItIsWhatGoesOnAndWhichKeysDoWhat() {
        ConsolePage.Work work = new ConsolePage.Work(List.of("Capturing: 412 MB of 1.20 GB"), false);
        assertEquals(List.of("Computer  TRIPOD, joined Level & Chain (https://10.0.0.5:8471) at 17:52",
            "Network   112 MB/s to the office, 115 MB/s from it", "",
            "Disks     /dev/sda  Aldine N1, serial 7K-0198, 512 GB  in use: mounted at /",
            "Drives    PEG-1  312 GB free of 500 GB", "Now       Capturing: 412 MB of 1.20 GB", "",
            "[h] hold   [s] stop the work   [w] confirm a disk   [o] switch this computer off   [q] leave the office"), page(true)
                .lines(STATE, work, ""));
        List<String> idle = page(false).lines(STATE, ConsolePage.Work.none(), "Stop the work? [y] yes, any other key: no");
        assertEquals("Computer  TRIPOD, joined Level & Chain (https://10.0.0.5:8471) at 17:52; it cannot be reached now", idle.get(0));
        assertEquals("Now       nothing is under way; the office begins work", idle.get(5));
        assertEquals("[w] confirm a disk   [o] switch this computer off   [q] leave the office", idle.get(7));
        assertEquals("Stop the work? [y] yes, any other key: no", idle.get(8), "the keys stay in sight");
    }
}
