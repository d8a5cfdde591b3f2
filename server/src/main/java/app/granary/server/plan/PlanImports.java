package app.granary.server.plan;

import app.granary.core.destination.Destination;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.plan.PlanLines;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.destination.Destinations;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Service;

/** Finds a file's disk and drives again in this office, by what they are recognised by; nothing is saved. */
@Service
class PlanImports {
    private final PlanFile file;
    private final Plans plans;
    private final DisksOnRecord disks;
    private final Destinations destinations;

    PlanImports(PlanFile file, Plans plans, DisksOnRecord disks, Destinations destinations) {
        this.file = file;
        this.plans = plans;
        this.disks = disks;
        this.destinations = destinations;
    }

    /**
     * @param form          the plan as far as it could be understood here
     * @param diskKnown     whether its disk was found; when not, a person chooses one
     * @param unknownDrives names of drives that were not found and are left out
     * @param existing      the plan of that name here; null when there is none
     * @param changes       what would change in it; empty when the file is that plan, or when there is none
     */
    record Imported(PlanForm form, boolean diskKnown, List<String> unknownDrives, Plans.Saved existing, List<String> changes) {
    }

    Imported read(String text) throws IOException {
        PlanForm form = file.read(text);
        form.plan();
        Optional<DisksOnRecord.DiskOnRecord> disk = disk(form.source());
        List<Destination> there = destinations.now();
        List<PlanForm.PlanDrive> drives = new ArrayList<>();
        List<String> unknown = new ArrayList<>();
        for (PlanForm.PlanDrive each : form.destinations()) {
            there.stream().filter(d -> d.id().equals(each.id()) && d.name().equals(each.name())).findFirst()
                .or(() -> there.stream().filter(d -> d.name().equalsIgnoreCase(each.name())).findFirst())
                .ifPresentOrElse(found -> drives.add(new PlanForm.PlanDrive(found.id(), found.name())), () -> unknown.add(each.name()));
        }
        PlanForm here = form.at(disk
            .map(d -> new PlanForm.PlanDisk(d.id(), d.computer(), d.name(), d.identity().model(), d.identity().serial(),
                d.identity().sizeBytes(), form.source().without()))
            .orElse(form.source()), drives);
        Optional<Plans.Saved> existing = plans.named(form.name());
        return new Imported(here, disk.isPresent(), unknown, existing.orElse(null),
            existing.map(old -> PlanLines.changes(old.plan(), here.plan())).orElse(List.of()));
    }

    private Optional<DisksOnRecord.DiskOnRecord> disk(PlanForm.PlanDisk source) {
        DiskIdentity wanted = new DiskIdentity(source.model(), source.serial(), source.sizeBytes());
        return disks.find(source.diskId()).filter(disk -> disk.identity().same(wanted))
            .or(() -> source.serial().isEmpty() ? Optional.empty()
                : disks.all().stream().filter(disk -> disk.identity().same(wanted)).findFirst());
    }
}
