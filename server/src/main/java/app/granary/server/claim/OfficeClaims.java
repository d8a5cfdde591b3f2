package app.granary.server.claim;

import app.granary.core.claim.Device;
import app.granary.core.claim.DeviceClaim;
import app.granary.core.destination.Destination;
import app.granary.core.machine.Machine;
import app.granary.core.target.TargetDisk;
import app.granary.engine.host.Devices;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.Overwriting;
import app.granary.engine.host.ImageStore;
import app.granary.server.computer.DisksAtHand;
import app.granary.server.computer.DisksOnRecord;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;

/**
 * What a run claims when it reads a disk, uses a drive or overwrites a target. A device that cannot be asked now is claimed by the office's
 * own name for it.
 */
@Component
public class OfficeClaims {
    private static final Device SCRATCH = Device.named("scratch", "the room for rehearsals");

    private final ImageStore store;
    private final DisksOnRecord onRecord;
    private final DisksAtHand disks;
    private final Devices devices;
    private final Overwriting overwriting;

    OfficeClaims(ImageStore store, DisksOnRecord onRecord, DisksAtHand disks, Devices devices, Overwriting overwriting) {
        this.devices = devices;
        this.overwriting = overwriting;
        this.store = store;
        this.onRecord = onRecord;
        this.disks = disks;
    }

    /**
     * A disk is claimed as it is on record and as it answers now: a bridge may hide its serial, and the same disk may be asked for as a
     * target.
     *
     * @param name for sentences
     */
    public List<DeviceClaim> reading(String diskId, String name) {
        Set<Device> out = new LinkedHashSet<>();
        out.add(onRecord.find(diskId).map(disk -> Device.of(disk.identity(), diskId, name)).orElseGet(() -> Device.named(diskId, name)));
        try {
            disks.find(diskId).ifPresent(now -> out.add(Device.of(now.identity(), now.id(), name)));
        } catch (IOException cannotTell) {
            // as it is on record, then
        }
        return out.stream().map(DeviceClaim::read).toList();
    }

    /** A destination is claimed by its own name and by every disk it lies on: a folder on a disk is no other place than that disk. */
    public List<DeviceClaim> storing(String destinationId, String name) {
        List<DeviceClaim> out = new ArrayList<>();
        out.add(DeviceClaim.store(Device.named("destination " + destinationId, name)));
        serials(destinationId).stream().sorted().filter(serial -> !serial.isBlank())
            .forEach(serial -> out.add(DeviceClaim.store(Device.ofSerial(serial, name))));
        return out;
    }

    private Set<String> serials(String destinationId) {
        try {
            return store.destinations().stream().filter(each -> each.id().equals(destinationId)).findFirst().map(Destination::diskSerials)
                .orElse(Set.of());
        } catch (IOException cannotTell) {
            return Set.of(); // its own name is claimed still
        }
    }

    /** @param name for sentences */
    public DeviceClaim overwriting(Overwriting.Confirmed target, String name) {
        return DeviceClaim.write(Device.of(target.identity(), target.targetId(), name));
    }

    /** Where something is looked for that may not answer. */
    private interface Looking {
        Optional<Machine> look() throws IOException;
    }

    private static String id(Looking looking) {
        try {
            return looking.look().map(Machine::id).orElse(Machine.OFFICE.id());
        } catch (IOException cannotTell) {
            return Machine.OFFICE.id();
        }
    }

    /** The machine that reads a disk, among those that joined; an empty string for the office's own, and for a disk that is not at hand. */
    public String machineOfDisk(String diskId) {
        return id(() -> devices.computers().stream().filter(each -> each.disks().stream().anyMatch(disk -> disk.id().equals(diskId)))
            .findFirst().map(HostComputer::machine));
    }

    /** Likewise the one a drive is in. */
    public String machineOfDestination(String destinationId) {
        return id(() -> store.destinations().stream().filter(each -> each.id().equals(destinationId)).findFirst()
            .map(Destination::machine));
    }

    /** Likewise the one that writes a target. */
    public String machineOfTarget(String targetId) {
        return id(() -> overwriting.targets().stream().filter(each -> each.id().equals(targetId)).findFirst().map(TargetDisk::machine));
    }

    /** Where rehearsals are restored to. */
    public DeviceClaim scratch() {
        return DeviceClaim.store(SCRATCH);
    }
}
