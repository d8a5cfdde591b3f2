package app.granary.demo;

import app.granary.core.destination.Destination;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.computer.DisksRead;
import app.granary.server.destination.Destinations;
import app.granary.server.plan.Plans;
import app.granary.standins.Past;
import java.util.Map;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Tells the server what the made-up office was before: once, when nothing is known of it yet. */
@Component
class DemoPast {
    private final Past past;
    private final Plans plans;
    private final Destinations destinations;
    private final DisksOnRecord disks;

    DemoPast(Past past, Plans plans, Destinations destinations, DisksOnRecord disks) {
        this.past = past;
        this.plans = plans;
        this.destinations = destinations;
        this.disks = disks;
    }

    /** Before anything is made of it. */
    @EventListener(ApplicationReadyEvent.class)
    @Order(-20)
    void tell() {
        destinations.look();
        if (destinations.hasNoPast()) {
            past.notes().forEach(note -> destinations.takeOver(note.destinationId(), note.rotation(),
                new Destination.Notes(note.leavesBuilding(), Map.of(), note.health(), note.sharedLink())));
            past.room().forEach(room -> destinations.addPast(room.destinationId(), room.at(), room.capacityBytes(), room.freeBytes()));
        }
        if (plans.all().isEmpty()) {
            past.plans().forEach(plan -> plans.takeOver(plan.file(), plan.daysAgo()));
        }
    }

    @EventListener(DisksRead.class)
    void tellOfDisks() {
        if (disks.hasNoPast()) { // the readings survey every disk
            disks.addPast(
                past.readings().stream().map(each -> new DisksOnRecord.UsedBefore(each.diskId(), each.at(), each.usedBytes())).toList());
        }
    }
}
