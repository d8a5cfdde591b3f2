package app.granary.server.image;

import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.FilesHit;
import app.granary.core.image.Lacks;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.LostFiles;
import app.granary.core.proof.Problem;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.ImageFacts;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.ImageStore;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What becomes of images, as it is recorded: made, copied, checked, signed, released, gone. */
@Service
public class ImageRecords {
    /** More would not be read by anyone; the first tell where to look. */
    private static final int KEPT_PROBLEMS = 100;
    private static final int KEPT_NAMES = 200;

    private final Images images;
    private final CopyRepository copies;
    private final ImageCheckRepository checks;
    private final ImageStore store;
    private final ObjectMapper json;
    private final Clock clock;

    ImageRecords(Images images, CopyRepository copies, ImageCheckRepository checks, ImageStore store, ObjectMapper json, Clock clock) {
        this.images = images;
        this.copies = copies;
        this.checks = checks;
        this.store = store;
        this.json = json;
        this.clock = clock;
    }

    /** It was released: nothing counts on it any more, and it can be taken back. */
    @Transactional
    public void release(UUID id) {
        put(id, Copy.Shelf.RELEASED);
    }

    @Transactional
    public void takeBack(UUID id) {
        put(id, Copy.Shelf.KEPT);
    }

    /** Its files are no more; its record, and what was found out about it, stay. */
    @Transactional
    public void gone(UUID id) {
        put(id, Copy.Shelf.GONE);
    }

    private void put(UUID id, Copy.Shelf shelf) {
        Copy copy = images.one(id);
        copy.put(shelf);
        copies.save(copy);
    }

    /** Records an image just made, with the check that was part of making it. */
    @Transactional
    public UUID record(Images.Wanted wanted, String destinationId, String destination, String name, HostImage made, boolean encrypted,
        int recheckDays, String who) {
        Image image = Image.made(wanted, name, made, encrypted, recheckDays, clock.instant(), who);
        image.comment(wanted.comment());
        Copy copy = copies.save(Copy.first(image, destinationId, destination).storing(made.storedBytes())
            .onItsDisk(isOn(image.serial(), destinationId)));
        recordCheck(copy.id(), made.check(), 0, who);
        return copy.id();
    }

    /** Records a copy just made, with the check that was part of making it. */
    @Transactional
    public UUID recordCopy(UUID of, String destinationId, String destination, CheckOutcome outcome, String who) {
        Copy from = images.one(of);
        Copy copy = copies.save(from.on(destinationId, destination, who).onItsDisk(isOn(from.image().serial(), destinationId)));
        recordCheck(copy.id(), outcome, 0, who);
        return copy.id();
    }

    /** Whether a destination lies on a disk. One without a serial is never its own destination. */
    private boolean isOn(String serial, String destinationId) {
        try {
            return store.destinations().stream().anyMatch(each -> each.id().equals(destinationId) && each.liesOn(serial));
        } catch (IOException cannotTell) {
            return false;
        }
    }

    /** Takes a copy of an image on, which lies on a drive, unchecked; false when it is not there. */
    @Transactional
    public boolean takeOnCopy(UUID of, String destinationId, String destination, String who) throws IOException {
        try {
            store.facts(ImageAt.of(destinationId, images.one(of).image().name()));
            copies.save(images.one(of).on(destinationId, destination, who));
            return true;
        } catch (FaultException notThere) {
            return false;
        }
    }

    /** Takes an image that lies on a drive onto the shelf, unchecked; false when it is not there. */
    @Transactional
    public boolean takeOn(String destinationId, String destination, String name, String diskId, String computer, String disk, String who)
        throws IOException {
        return takeOn(destinationId, destination, name, new Images.Of(computer, diskId, disk, ""), clock.instant(), who);
    }

    /** The same, of an image that was made some time ago. */
    @Transactional
    public boolean takeOn(String destinationId, String destination, String name, Images.Of of, Instant madeAt, String who)
        throws IOException {
        try {
            ImageFacts facts = store.facts(ImageAt.of(destinationId, name));
            if (!images.exists(destinationId, name)) {
                copies.save(Copy.first(Image.found(Image.Origin.MADE, name, of, madeAt, who), destinationId, destination).sized(facts));
            }
            return true;
        } catch (FaultException notThere) {
            return false;
        }
    }

    /** @param seconds how long it took; 0 when it was part of something else */
    @Transactional
    public void recordCheck(UUID imageId, CheckOutcome outcome, double seconds, String who) {
        recordCheck(imageId, outcome, seconds, who, "");
    }

    /** @param note what to know of it besides; usually an empty string */
    @Transactional
    public void recordCheck(UUID imageId, CheckOutcome outcome, double seconds, String who, String note) {
        recordCheck(imageId, clock.instant(), outcome, seconds, who, note);
    }

    /** A check that was made some time ago, and is heard of only now. */
    @Transactional
    public void recordCheck(UUID imageId, Instant at, CheckOutcome outcome, double seconds, String who, String note) {
        List<Problem> kept = outcome.problems().subList(0, Math.min(KEPT_PROBLEMS, outcome.problems().size()));
        List<LostFiles> lost = outcome.lost().stream()
            .map(each -> new LostFiles(each.partition(),
                new FilesHit(each.hit().paths().subList(0, Math.min(KEPT_NAMES, each.hit().paths().size())),
                    each.hit().count(), each.hit().note())))
            .toList();
        checks.save(new ImageCheck(imageId, at, who, outcome.level(), outcome.ok(), outcome.readBytes(), seconds,
            written(kept), written(lost), note));
    }

    /** A person's signature that a computer was started from it, with what was looked at. */
    @Transactional
    public void signBooted(UUID imageId, String lookedAt, String who) {
        images.one(imageId);
        checks.save(new ImageCheck(imageId, clock.instant(), who, ProofLevel.BOOTED, true, 0, 0, "[]", "[]", lookedAt));
    }

    @Transactional
    public void comment(UUID imageId, String text) {
        Copy copy = images.one(imageId);
        copy.image().comment(text);
        copies.save(copy);
    }

    @Transactional
    public void lacks(UUID imageId, Lacks what) {
        Copy copy = images.one(imageId);
        copy.image().lacking(what);
        copies.save(copy);
    }

    private String written(Object list) {
        try {
            return json.writeValueAsString(list);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }
}
