package app.granary.server.image;

import app.granary.core.destination.Destination;
import app.granary.core.estimate.ImageHistory;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.FilesHit;
import app.granary.core.image.Lacks;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Evidence;
import app.granary.core.proof.LostFiles;
import app.granary.core.proof.Problem;
import app.granary.core.proof.ProofLevel;
import app.granary.core.proof.Standing;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.site.ImageAt;
import app.granary.engine.site.ImageFacts;
import app.granary.engine.site.Site;
import app.granary.engine.site.SiteImage;
import app.granary.server.estimate.Prospect;
import app.granary.server.problem.Refused;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The images this office has, and what is known of each. */
@Service
public class Images {
    /** More would not be read by anyone; the first tell where to look. */
    private static final int KEPT_PROBLEMS = 100;
    private static final int KEPT_NAMES = 200;
    /** Days a proof stands where no plan says so. */
    public static final int USUAL_RECHECK_DAYS = 90;

    private final ImageRepository images;
    private final ImageCheckRepository checks;
    private final ImageShelf shelf;
    private final Site site;
    private final ObjectMapper json;
    private final Clock clock;

    Images(ImageRepository images, ImageCheckRepository checks, ImageShelf shelf, Site site, ObjectMapper json, Clock clock) {
        this.images = images;
        this.checks = checks;
        this.shelf = shelf;
        this.site = site;
        this.json = json;
        this.clock = clock;
    }

    /** @param sound what its last check said; an image that lacks a part of its disk is none */
    public record Newest(Instant madeAt, boolean sound) {
    }

    /** What a check needs to know of an image: where it lies, and whether it is one of Granary's format, which alone can be rehearsed, copied and mended. */
    public record Shelved(String name, String computer, String diskId, String disk, String serial, String destinationId, String destination, long storedBytes, boolean encrypted, String folder,
                          Format format, UUID setId, boolean kept) {
        ImageAt at(Passphrase passphrase) {
            return new ImageAt(destinationId, folder, name, passphrase);
        }
    }

    public enum Format {
        GRANARY,
        /** Files of other tools. */
        OTHER,
        /** Files nobody has looked at: a line of a paper log. */
        UNSEEN
    }

    /** The newest image of every disk that has one, by the disk's identity. */
    @Transactional(readOnly = true)
    public Map<String, Newest> newest() {
        return shelf.now().all().stream().filter(each -> each.isKept() && each.image().origin() != Image.Origin.PAPER)
                .filter(each -> each.image().lacks().nothing()).collect(Collectors.toMap(each -> each.image().diskId(),
            each -> new Newest(each.image().madeAt(), each.checkedAt().isPresent() && !each.standing().damaged()), (newest, older) -> newest));
    }

    /** A disk's images made with a codec, for the next estimate of it; those found damaged count too, their sizes are no less true. */
    @Transactional(readOnly = true)
    public List<ImageHistory.Past> pastOf(String diskId, String codec) {
        return images.findByDiskIdAndCodecOrderByMadeAtDesc(diskId, codec).stream().filter(image -> image.usedBytes() > 0)
            .map(image -> new ImageHistory.Past(Math.max(0, Duration.between(image.madeAt(), clock.instant()).toHours() / 24.0), image.usedBytes(), image.storedBytes())).toList();
    }

    /** How many images lie on a destination, and what they take. */
    public record Lying(int count, long bytes) {
    }

    /** By destination, those that hold any. */
    @Transactional(readOnly = true)
    public Map<String, Lying> lying() {
        return shelf.now().kept().stream().collect(Collectors.toMap(Standings::destinationId, image -> new Lying(1, image.storedBytes()),
            (a, b) -> new Lying(a.count() + b.count(), a.bytes() + b.bytes())));
    }

    /** Where images of a disk lie, each with when its newest there was made; one partition alone, found made elsewhere, is none of its rhythm. */
    @Transactional(readOnly = true)
    public Map<String, Instant> newestByDestination(String diskId) {
        return shelf.now().byDisk().getOrDefault(diskId, List.of()).stream().filter(image -> !image.lacks().equals(Lacks.ALL_BUT_ONE)).collect(Collectors.toMap(Standings::destinationId, Standings::madeAt, (newest, older) -> newest));
    }

    /** Identities of the destinations that hold an image of a disk. */
    public Set<String> destinationsOf(String diskId) {
        return newestByDestination(diskId).keySet();
    }

    /** @return whether there is one by that name there, case not counted */
    public boolean exists(String destinationId, String name) {
        return images.isTaken(destinationId, name);
    }

    public Shelved shelved(UUID id) {
        Image image = one(id);
        return new Shelved(image.name(), image.computer(), image.diskId(), image.disk(), image.serial(), image.destinationId(), image.destination(), image.storedBytes(), image.encrypted(),
            image.location(), format(image), image.setId(), image.shelf() == Image.Shelf.KEPT);
    }

    static Format format(Image image) {
        return image.origin() == Image.Origin.PAPER ? Format.UNSEEN : image.inside().isEmpty() ? Format.GRANARY : Format.OTHER;
    }

    /** {@code "zstd"} and so on. */
    public String codecOf(UUID id) {
        return one(id).codec();
    }

    /** What of the disk could not be read. */
    public long badBytesOf(UUID id) {
        return one(id).badBytes();
    }

    public boolean isEncrypted(UUID id) {
        return one(id).encrypted();
    }

    /** Length of the disk in it. */
    public long rawBytesOf(UUID id) {
        return one(id).rawBytes();
    }

    /** What a restore of it writes, at most. */
    public long usedBytesOf(UUID id) {
        return one(id).usedBytes();
    }

    /** Where an image of Granary's format lies. */
    public ImageAt at(UUID id, Passphrase passphrase) {
        return shelved(id).at(passphrase);
    }

    /** Where the copy of an image lies that is on another destination. */
    public ImageAt copyOn(UUID id, String destinationId) {
        return copiesOf(one(id)).stream().filter(copy -> copy.destinationId().equals(destinationId)).findFirst().map(copy -> at(copy.id(), Passphrase.NONE))
            .orElseThrow(() -> Refused.notFound("copy"));
    }

    /** The copy of an image on a destination, or the image itself. */
    public UUID idOn(UUID id, String destinationId) {
        return images.findBySetIdAndShelf(one(id).setId(), Image.Shelf.KEPT).stream().filter(each -> each.destinationId().equals(destinationId)).findFirst().map(Image::id).orElseThrow(() -> Refused.notFound("copy"));
    }

    /** Those kept and those in the trash, newest first. */
    List<ImageShelf.Kept> all() {
        return shelf.now().all();
    }

    /**
     * An image as the database has it on a drive.
     *
     * @param kept false for one that was released
     */
    public record OnDrive(UUID id, String name, boolean kept) {
    }

    /** What the database says lies on a drive, without what is gone. */
    public List<OnDrive> onDrive(String destinationId) {
        return shelf.now().all().stream().filter(each -> each.image().destinationId().equals(destinationId) && each.image().origin() != Image.Origin.PAPER)
            .map(each -> new OnDrive(each.image().id(), each.image().name(), each.isKept())).toList();
    }

    Image one(UUID id) {
        return images.findById(id).orElseThrow(() -> Refused.notFound("image"));
    }

    /** It was released: nothing counts on it any more, and it can be taken back. */
    @Transactional
    public void release(UUID id) {
        put(id, Image.Shelf.RELEASED);
    }

    @Transactional
    public void takeBack(UUID id) {
        put(id, Image.Shelf.KEPT);
    }

    /** Its files are no more; its record, and what was found out about it, stay. */
    @Transactional
    public void gone(UUID id) {
        put(id, Image.Shelf.GONE);
    }

    private void put(UUID id, Image.Shelf shelf) {
        Image image = one(id);
        image.put(shelf);
        images.save(image);
    }

    /** Newest first. */
    List<ImageCheck> checksOf(UUID id) {
        return checks.findByImageIdOrderByCheckedAtDesc(id);
    }

    /** Records an image just made, with the check that was part of making it. */
    @Transactional
    public UUID record(Prospect prospect, String destinationId, String destination, String name, SiteImage made, boolean encrypted, int recheckDays, String who) {
        Image image = images.save(Image.of(prospect, destinationId, destination, name, made, encrypted, recheckDays, clock.instant(), who));
        recordCheck(image.id(), made.check(), 0, who);
        return image.id();
    }

    /** Records a copy just made, with the check that was part of making it. */
    @Transactional
    public UUID recordCopy(UUID of, String destinationId, String destination, CheckOutcome outcome, String who) {
        Image copy = images.save(one(of).copyOn(destinationId, destination, clock.instant(), who));
        recordCheck(copy.id(), outcome, 0, who);
        return copy.id();
    }

    /** Takes an image that lies on a drive onto the shelf, unchecked; false when it is not there. */
    @Transactional
    public boolean takeOn(String destinationId, String destination, String name, String diskId, String computer, String disk, String who) throws IOException {
        try {
            ImageFacts facts = site.facts(ImageAt.of(destinationId, name));
            if (!exists(destinationId, name)) {
                images.save(Image.found(Image.Origin.MADE, name, computer, diskId, disk, "", destinationId, destination, clock.instant(), "", who).sized(facts));
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
        List<Problem> kept = outcome.problems().subList(0, Math.min(KEPT_PROBLEMS, outcome.problems().size()));
        List<LostFiles> lost = outcome.lost().stream().map(each -> new LostFiles(each.partition(), new FilesHit(each.hit().paths().subList(0, Math.min(KEPT_NAMES, each.hit().paths().size())),
            each.hit().count(), each.hit().note()))).toList();
        checks.save(new ImageCheck(imageId, clock.instant(), who, outcome.level(), outcome.ok(), outcome.readBytes(), seconds, written(kept), written(lost), note));
    }

    /** A person's signature that a computer was started from it, with what was looked at. */
    @Transactional
    public void signBooted(UUID imageId, String lookedAt, String who) {
        one(imageId);
        checks.save(new ImageCheck(imageId, clock.instant(), who, ProofLevel.BOOTED, true, 0, 0, "[]", "[]", lookedAt));
    }

    @Transactional
    public void comment(UUID imageId, String text) {
        Image image = one(imageId);
        image.comment(text);
        images.save(image);
    }

    @Transactional
    public void lacks(UUID imageId, Lacks what) {
        images.save(one(imageId).lacking(what));
    }

    private String written(Object list) {
        try {
            return json.writeValueAsString(list);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    /** As people know it; its identity when it is not known any more. */
    public String destinationName(String destinationId) throws IOException {
        return site.destinations().stream().filter(d -> d.id().equals(destinationId)).map(Destination::name).findFirst().orElse(destinationId);
    }

    public boolean areCopies(UUID one, UUID other) {
        return !one.equals(other) && one(one).setId().equals(one(other).setId());
    }

    List<Image> copiesOf(Image image) {
        return images.findBySetIdAndShelf(image.setId(), Image.Shelf.KEPT).stream().filter(other -> !other.id().equals(image.id())).toList();
    }

    static Standing standing(Image image, List<ImageCheck> itsChecks) {
        return Standing.of(itsChecks.stream().map(c -> new Evidence(c.level(), c.ok(), c.checkedAt(), c.checkedBy(), image.destination(), c.seconds())).toList(), image.recheckDays());
    }

    /** An image with how far it is proven. */
    public record Standings(UUID id, String name, String computer, String disk, String diskId, String destinationId, String destination, Instant madeAt, boolean encrypted, int recheckDays, UUID setId,
                            boolean paper, Standing standing, long storedBytes, Lacks lacks) {
    }

    /** Every image that is kept, newest first. */
    public List<Standings> standings() {
        return shelf.now().kept();
    }

    /** The same, by disk. */
    public Map<String, List<Standings>> standingsByDisk() {
        return shelf.now().byDisk();
    }

    List<LostFiles> lostOf(ImageCheck check) {
        try {
            return List.of(json.readValue(check.lost(), LostFiles[].class));
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    List<Problem> problemsOf(ImageCheck check) {
        try {
            return List.of(json.readValue(check.problems(), Problem[].class));
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }
}
