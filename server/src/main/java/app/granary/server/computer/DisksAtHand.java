package app.granary.server.computer;

import app.granary.core.disk.DiskRegister;
import app.granary.core.disk.DiskRegister.Resolution;
import app.granary.core.disk.SeenDisk;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.site.Site;
import app.granary.engine.site.SiteComputer;
import app.granary.engine.site.SiteDisk;
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
    private final Site devices;
    private final DiskRepository disks;
    private final DiskTies ties;

    DisksAtHand(@Qualifier("devices") Site devices, DiskRepository disks, DiskTies ties) {
        this.devices = devices;
        this.disks = disks;
        this.ties = ties;
    }

    /** A disk at hand that cannot be told. */
    record Untold(SiteComputer computer, SiteDisk disk, Resolution.Ambiguous doubt) {
    }

    /**
     * As it is at one moment.
     *
     * @param computers with those of their disks that can be told, each under its id on record
     * @param siteIds   what the site calls a disk on record
     * @param untold    in order of name
     */
    record Now(List<SiteComputer> computers, Map<String, SiteDisk> siteIds, List<Untold> untold) {
        Set<String> ids() {
            return siteIds.keySet();
        }

        /** Of all disks at hand. */
        Set<String> attachments() {
            Set<String> out = new HashSet<>();
            siteIds.values().forEach(each -> out.add(each.attachment()));
            untold.forEach(each -> out.add(each.disk().attachment()));
            return out;
        }
    }

    Now look() throws IOException {
        List<SiteComputer> there = devices.computers();
        List<SeenDisk> seen = there.stream().flatMap(computer -> computer.disks().stream()).map(SiteDisk::seen).toList();
        DiskRegister register = new DiskRegister(disks.entries(), ties.all(), seen);
        List<SiteComputer> computers = new ArrayList<>();
        Map<String, SiteDisk> siteIds = new HashMap<>();
        List<Untold> untold = new ArrayList<>();
        for (SiteComputer computer : there) {
            List<SiteDisk> told = new ArrayList<>();
            for (SiteDisk disk : computer.disks()) {
                Resolution is = register.resolve(disk.seen());
                if (is instanceof Resolution.Ambiguous doubt) {
                    untold.add(new Untold(computer, disk, doubt));
                } else {
                    SiteDisk known = disk.as(is instanceof Resolution.Known one ? one.diskId() : disk.id());
                    told.add(known);
                    siteIds.put(known.id(), disk);
                }
            }
            computers.add(computer.with(told));
        }
        return new Now(computers, siteIds, untold);
    }

    /** The disk as the site has it; empty when it is not attached, or cannot be told. */
    public Optional<SiteDisk> find(String diskId) throws IOException {
        return Optional.ofNullable(look().siteIds.get(diskId));
    }

    /** @throws FaultException when it is not attached, or may be attached and cannot be told */
    String siteId(String diskId) throws IOException {
        Now now = look();
        SiteDisk found = now.siteIds.get(diskId);
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
