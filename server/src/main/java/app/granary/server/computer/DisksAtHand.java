package app.granary.server.computer;

import app.granary.core.disk.DiskRegister;
import app.granary.core.disk.DiskRegister.Resolution;
import app.granary.core.disk.SeenDisk;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.host.Host;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.stereotype.Component;

/** Which disks on record the disks at hand are, and which of them cannot be told. */
@Component
public class DisksAtHand {
    private final Host machine;
    private final DiskRepository disks;
    private final DiskTies ties;

    DisksAtHand(@Qualifier("machine") Host machine, DiskRepository disks, DiskTies ties) {
        this.machine = machine;
        this.disks = disks;
        this.ties = ties;
    }

    /** A disk at hand that cannot be told. */
    record Untold(HostComputer computer, HostDisk disk, Resolution.Ambiguous doubt) {
    }

    /**
     * As it is at one moment.
     *
     * @param computers with those of their disks that can be told, each under its id on record
     * @param hostIds   what the host calls a disk on record
     * @param untold    in order of name
     */
    record Now(List<HostComputer> computers, Map<String, HostDisk> hostIds, List<Untold> untold) {
        Set<String> ids() {
            return hostIds.keySet();
        }

        /** Of all disks at hand. */
        Set<String> attachments() {
            Set<String> out = new HashSet<>();
            hostIds.values().forEach(each -> out.add(each.attachment()));
            untold.forEach(each -> out.add(each.disk().attachment()));
            return out;
        }
    }

    Now look() throws IOException {
        List<HostComputer> there = machine.devices().computers();
        List<SeenDisk> seen = there.stream().flatMap(computer -> computer.disks().stream()).map(HostDisk::seen).toList();
        DiskRegister register = new DiskRegister(disks.entries(), ties.all(), seen);
        List<HostComputer> computers = new ArrayList<>();
        Map<String, HostDisk> hostIds = new HashMap<>();
        List<Untold> untold = new ArrayList<>();
        for (HostComputer computer : there) {
            List<HostDisk> told = new ArrayList<>();
            for (HostDisk disk : computer.disks()) {
                Resolution is = register.resolve(disk.seen());
                if (is instanceof Resolution.Ambiguous doubt) {
                    untold.add(new Untold(computer, disk, doubt));
                } else {
                    HostDisk known = disk.as(is instanceof Resolution.Known one ? one.diskId() : disk.id());
                    told.add(known);
                    hostIds.put(known.id(), disk);
                }
            }
            computers.add(computer.with(told));
        }
        return new Now(computers, hostIds, untold);
    }

    /** The disk as the host has it; empty when it is not attached, or cannot be told. */
    public Optional<HostDisk> find(String diskId) throws IOException {
        return Optional.ofNullable(look().hostIds.get(diskId));
    }

    /** @throws FaultException when it is not attached, or may be attached and cannot be told */
    String hostId(String diskId) throws IOException {
        Now now = look();
        HostDisk found = now.hostIds.get(diskId);
        if (found != null) {
            return found.id();
        }
        Set<String> perhaps = new HashSet<>();
        now.untold.stream().filter(each -> each.doubt.candidates().contains(diskId)).forEach(each -> perhaps.add(each.disk.name()));
        throw Fault.of(Fault.Kind.NOT_RECOGNISED, diskId,
            perhaps.isEmpty() ? "The disk is not attached to this machine. Attach it and try again."
                : "It cannot be told whether " + String.join(" or ", perhaps.stream().sorted().toList())
                    + " is this disk. Say which disk it is on the Computers page, or take the other off, and try again.")
            .asException();
    }
}
