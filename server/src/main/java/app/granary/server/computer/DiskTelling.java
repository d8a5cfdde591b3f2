package app.granary.server.computer;

import app.granary.core.disk.DiskRegister.Resolution;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/** Disks that cannot be told by what they say, and persons who say what they are. */
@Component
class DiskTelling {
    private final AttachedDisks attached;
    private final DisksAtHand atHand;
    private final DisksOnRecord onRecord;
    private final DiskTies ties;
    private final Inventory inventory;
    private final Journal journal;
    private final Clock clock;

    DiskTelling(AttachedDisks attached, DisksAtHand atHand, DisksOnRecord onRecord, DiskTies ties, Inventory inventory, Journal journal,
        Clock clock) {
        this.attached = attached;
        this.atHand = atHand;
        this.onRecord = onRecord;
        this.ties = ties;
        this.inventory = inventory;
        this.journal = journal;
        this.clock = clock;
    }

    List<Wire.UntoldLine> lines() {
        if (attached.untold().isEmpty()) {
            return List.of();
        }
        Map<String, DisksOnRecord.DiskOnRecord> known = onRecord.all().stream()
            .collect(Collectors.toMap(DisksOnRecord.DiskOnRecord::id, Function.identity()));
        return attached.untold().stream()
            .map(each -> new Wire.UntoldLine(each.disk().attachment(), each.disk().name(), each.disk().identity().model(),
                each.disk().identity().serial(), each.disk().identity().sizeBytes(), each.disk().reached(), why(each.doubt()),
                each.doubt().candidates().stream().filter(known::containsKey).map(known::get)
                    .map(disk -> new Wire.MaybeLine(disk.id(), disk.computer(), disk.name(),
                        disk.identity().model(), disk.identity().serial()))
                    .toList()))
            .toList();
    }

    private static String why(Resolution.Ambiguous doubt) {
        return switch (doubt.why()) {
            case TWINS -> "It answers just as " + String.join(", ", doubt.twins()) + (doubt.twins().size() == 1 ? " does." : " do.");
            case NO_SERIAL -> "It gives no serial number, and a disk of this size is known.";
            case HIDDEN_BEFORE -> "A disk of this model and size is known whose serial number was hidden.";
            case SEVERAL -> "Several known disks have this serial number and size.";
        };
    }

    /**
     * @param attachment of the disk that is meant
     * @param diskId     of the disk on record it is, one of those it may be; an empty string for one nobody knows yet
     */
    void tell(String attachment, String diskId, String who) throws IOException {
        DisksAtHand.Untold meant = atHand.look().untold().stream().filter(each -> each.disk().attachment().equals(attachment)).findFirst()
            .orElseThrow(() -> new Refused(HttpStatus.CONFLICT, "gone", "attachment",
                "That disk is not attached any more, or is known by now. Look at the list again."));
        if (diskId.isEmpty()) {
            inventory.read(meant.computer(), meant.disk().as(attachment), meant.computer().disks().indexOf(meant.disk()) + 1,
                attached.survey(meant.disk().id()));
            ties.tie(attachment, attachment, who, clock.instant()); // its row alone does not say so where others answer alike
        } else if (meant.doubt().candidates().contains(diskId)) {
            ties.tie(attachment, diskId, who, clock.instant());
        } else {
            throw new Refused(HttpStatus.CONFLICT, "another-disk", "diskId",
                "That disk is attached by itself, or differs from this one. Choose one of those it may be.");
        }
        String as = onRecord.find(diskId).map(disk -> disk.computer() + " " + disk.name()).orElse("a disk nobody knew yet");
        journal.add(who, "tell disk", meant.disk().name(), Journal.Result.NOTE, who + " said that " + meant.disk().name() + " ("
            + meant.disk().identity().model() + ") is " + as + ", as long as it stays plugged in.");
        attached.readNow();
    }
}
