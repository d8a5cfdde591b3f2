package app.granary.engine.line;

import app.granary.core.destination.Destination;
import app.granary.core.disk.SeenDisk;
import app.granary.core.preflight.Power;
import app.granary.core.target.TargetDisk;
import app.granary.engine.host.Host;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * What a computer is and has at one moment, so that the office answers its pages without asking over the line.
 *
 * @param inUse by the id of a disk that something uses, what: "mounted at /home"; at once, not when a capture starts
 */
public record HostState(HostComputer computer, List<SeenDisk> seen, Map<String, String> inUse, List<Destination> destinations,
    List<TargetDisk> targets, Power power) {
    public HostState {
        seen = List.copyOf(seen);
        inUse = Map.copyOf(inUse);
        destinations = List.copyOf(destinations);
        targets = List.copyOf(targets);
    }

    /** What a host of one computer is and has now; what is on the disks is not read for it. */
    public static HostState of(Host host) throws IOException {
        HostComputer computer = host.devices().computers().get(0);
        Map<String, String> inUse = new HashMap<>();
        for (HostDisk disk : computer.disks()) {
            String use = host.devices().inUse(disk.id());
            if (!use.isEmpty()) {
                inUse.put(disk.id(), use);
            }
        }
        return new HostState(computer, host.devices().seen(), inUse, host.store().destinations(), host.overwriting().targets(),
            host.power());
    }
}
