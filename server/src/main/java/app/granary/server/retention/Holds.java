package app.granary.server.retention;

import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.time.Clock;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Holds on images: with a reason, for all copies, until a day or until somebody ends them. */
@Service
public class Holds {
    private final ImageHoldRepository holds;
    private final Images images;
    private final Releases releases;
    private final Journal journal;
    private final Clock clock;

    Holds(ImageHoldRepository holds, Images images, Releases releases, Journal journal, Clock clock) {
        this.holds = holds;
        this.images = images;
        this.releases = releases;
        this.journal = journal;
        this.clock = clock;
    }

    /** Why images are held, by image; those held twice by the first. */
    public Map<UUID, String> reasons() {
        return holds.findByEndedAtIsNullOrderByPlacedAt().stream()
            .collect(Collectors.toMap(ImageHold::imageId, ImageHold::reason, (first, later) -> first));
    }

    String diskOf(UUID imageId) {
        return images.shelved(imageId).diskId();
    }

    List<ImageHold> of(UUID imageId) {
        return holds.findByImageIdAndEndedAtIsNullOrderByPlacedAt(images.shelved(imageId).imageId());
    }

    /** While a release is being asked for, the hold comes before it or after it, never between the deciding and the doing. */
    void place(UUID imageId, String reason, LocalDate until, String who) {
        synchronized (releases) {
            Images.Shelved image = images.shelved(imageId);
            if (!image.kept()) {
                throw new Refused(HttpStatus.CONFLICT, "released-already", "",
                    image.name() + " was released meanwhile. Take it back from the trash on the Retention page, then hold it.");
            }
            if (until != null && until.isBefore(LocalDate.ofInstant(clock.instant(), clock.getZone()))) {
                throw new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "until", "That day is over. Choose a day to come, or none.");
            }
            holds.save(new ImageHold(image.imageId(), reason, until, clock.instant(), who));
            journal.add(who, "hold", image.computer() + " " + image.disk(), Journal.Result.DONE,
                image.name() + " is held" + (until == null ? "" : " until " + until) + ": " + reason,
                Journal.Facts.of(List.of(image.serial()), Map.of(), "/images/" + imageId));
        }
    }

    @Transactional
    void end(UUID imageId, UUID holdId, String who) {
        Images.Shelved image = images.shelved(imageId);
        ImageHold hold = of(imageId).stream().filter(each -> each.id().equals(holdId)).findFirst()
            .orElseThrow(() -> Refused.notFound("hold"));
        hold.end(clock.instant(), who);
        holds.save(hold);
        journal.add(who, "end hold", image.computer() + " " + image.disk(), Journal.Result.DONE,
            "The hold on " + image.name() + " was ended (" + hold.reason() + ").");
    }
}
