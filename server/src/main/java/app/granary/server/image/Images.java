package app.granary.server.image;

import app.granary.core.destination.Destination;
import app.granary.core.estimate.ImageHistory;
import app.granary.core.estimate.SizeEstimate;
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
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.ImageFacts;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.ImageStore;
import app.granary.server.computer.LastImages;
import app.granary.server.destination.Contents;
import app.granary.server.problem.Refused;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The images this office has, and what is known of each. */
@Service
public class Images implements LastImages, Contents {
    /** More would not be read by anyone; the first tell where to look. */
    private static final int KEPT_PROBLEMS = 100;
    private static final int KEPT_NAMES = 200;
    /** Days a proof stands where no plan says so. */
    public static final int USUAL_RECHECK_DAYS = 90;

    private final CopyRepository copies;
    private final ImageCheckRepository checks;
    private final ImageShelf shelf;
    private final ImageStore store;
    private final ObjectMapper json;
    private final Clock clock;

    Images(CopyRepository copies, ImageCheckRepository checks, ImageShelf shelf, ImageStore store, ObjectMapper json, Clock clock) {
        this.copies = copies;
        this.checks = checks;
        this.shelf = shelf;
        this.store = store;
        this.json = json;
        this.clock = clock;
    }

    /** The disk an image is of, as it is called when it is made. */
    public record Of(String computer, String diskId, String disk, String serial) {
    }

    /**
     * What was asked for of an image.
     *
     * @param codec {@code "zstd"} and so on
     * @param size  how big it was thought to become
     */
    public record Wanted(Of of, String codec, int level, SizeEstimate size) {
    }

    /**
     * What a check needs to know of an image: where it lies, and whether it is one of Granary's format, which alone can be rehearsed,
     * copied and repaired.
     */
    public record Shelved(String name, String computer, String diskId, String disk, String serial, String destinationId, String destination,
        long storedBytes, boolean encrypted, String folder,
        Format format, UUID imageId, boolean kept) {
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

    @Override
    @Transactional(readOnly = true)
    public Map<String, LastImage> newest() {
        return shelf.now().all().stream().filter(each -> each.isKept() && each.image().origin() != Image.Origin.PAPER)
            .filter(each -> each.image().lacks().nothing()).collect(Collectors.toMap(each -> each.image().diskId(),
                each -> new LastImage(each.image().madeAt(), each.checkedAt().isPresent() && !each.standing().damaged()),
                (newest, older) -> newest));
    }

    /** A disk's images made with a codec, for the next estimate of it; those found damaged count too, their sizes are no less true. */
    @Transactional(readOnly = true)
    public List<ImageHistory.Past> pastOf(String diskId, String codec) {
        return copies.ofDisk(diskId, codec).stream().filter(copy -> !copy.copied() && copy.image().usedBytes() > 0)
            .map(copy -> new ImageHistory.Past(
                Math.max(0, Duration.between(copy.image().madeAt(), clock.instant()).toHours() / 24.0), copy.image().usedBytes(),
                copy.storedBytes()))
            .toList();
    }

    @Override
    @Transactional(readOnly = true)
    public Map<String, Lying> lying() {
        return shelf.now().kept().stream().collect(Collectors.toMap(Standings::destinationId, image -> new Lying(1, image.storedBytes()),
            (a, b) -> new Lying(a.count() + b.count(), a.bytes() + b.bytes())));
    }

    @Override
    public List<Content> on(String destinationId) {
        return standings().stream().filter(copy -> copy.destinationId().equals(destinationId) && !copy.paper())
            .map(copy -> new Content(copy.computer(), copy.disk(), copy.name(), copy.madeAt(), copy.storedBytes(),
                copy.standing().level().map(level -> level.ordinal() + 1).orElse(0), copy.encrypted()))
            .toList();
    }

    /**
     * Where images of a disk lie, each with when its newest there was made; one partition alone, found made elsewhere, is none of its
     * rhythm.
     */
    @Transactional(readOnly = true)
    public Map<String, Instant> newestByDestination(String diskId) {
        return shelf.now().byDisk().getOrDefault(diskId, List.of()).stream().filter(image -> !image.lacks().equals(Lacks.ALL_BUT_ONE))
            .collect(Collectors.toMap(Standings::destinationId, Standings::madeAt, (newest, older) -> newest));
    }

    /** Identities of all copies an image has or had. */
    public List<UUID> copiesOf(UUID imageId) {
        return copies.ofImage(imageId).stream().map(Copy::id).toList();
    }

    /** Identities of the destinations that hold an image of a disk. */
    public Set<String> destinationsOf(String diskId) {
        return newestByDestination(diskId).keySet();
    }

    /** @return whether there is one by that name there, case not counted */
    public boolean exists(String destinationId, String name) {
        return copies.isTaken(destinationId, name);
    }

    public Shelved shelved(UUID id) {
        Copy copy = one(id);
        Image image = copy.image();
        return new Shelved(image.name(), image.computer(), image.diskId(), image.disk(), image.serial(), copy.destinationId(),
            copy.destination(), copy.storedBytes(), image.encrypted(),
            copy.folder(), format(image), image.id(), copy.isKept());
    }

    static Format format(Image image) {
        return image.origin() == Image.Origin.PAPER ? Format.UNSEEN : image.inside().isEmpty() ? Format.GRANARY : Format.OTHER;
    }

    /** {@code "zstd"} and so on. */
    public String codecOf(UUID id) {
        return one(id).image().codec();
    }

    /** What of the disk could not be read. */
    public long badBytesOf(UUID id) {
        return one(id).image().badBytes();
    }

    public boolean isEncrypted(UUID id) {
        return one(id).image().encrypted();
    }

    /** Length of the disk in it. */
    public long rawBytesOf(UUID id) {
        return one(id).image().rawBytes();
    }

    /** What a restore of it writes, at most. */
    public long usedBytesOf(UUID id) {
        return one(id).image().usedBytes();
    }

    /** Where an image of Granary's format lies. */
    public ImageAt at(UUID id, Passphrase passphrase) {
        return shelved(id).at(passphrase);
    }

    /** Where the copy of an image lies that is on another destination. */
    public ImageAt copyOn(UUID id, String destinationId) {
        return copiesOf(one(id)).stream().filter(copy -> copy.destinationId().equals(destinationId)).findFirst()
            .map(copy -> at(copy.id(), Passphrase.NONE))
            .orElseThrow(() -> Refused.notFound("copy"));
    }

    /** The copy of an image on a destination, or the image itself. */
    public UUID idOn(UUID id, String destinationId) {
        return keptOf(one(id).image()).filter(each -> each.destinationId().equals(destinationId)).findFirst().map(Copy::id)
            .orElseThrow(() -> Refused.notFound("copy"));
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
        return shelf.now().all().stream()
            .filter(each -> each.copy().destinationId().equals(destinationId) && each.image().origin() != Image.Origin.PAPER)
            .map(each -> new OnDrive(each.copy().id(), each.image().name(), each.isKept())).toList();
    }

    Copy one(UUID id) {
        return copies.findById(id).orElseThrow(() -> Refused.notFound("image"));
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
        Copy copy = one(id);
        copy.put(shelf);
        copies.save(copy);
    }

    /** Newest first. */
    List<ImageCheck> checksOf(UUID id) {
        return checks.findByCopyIdOrderByCheckedAtDesc(id);
    }

    /** Records an image just made, with the check that was part of making it. */
    @Transactional
    public UUID record(Wanted wanted, String destinationId, String destination, String name, HostImage made, boolean encrypted,
        int recheckDays, String who) {
        Image image = Image.made(wanted, name, made, encrypted, recheckDays, clock.instant(), who);
        Copy copy = copies.save(Copy.first(image, destinationId, destination).storing(made.storedBytes()));
        recordCheck(copy.id(), made.check(), 0, who);
        return copy.id();
    }

    /** Records a copy just made, with the check that was part of making it. */
    @Transactional
    public UUID recordCopy(UUID of, String destinationId, String destination, CheckOutcome outcome, String who) {
        Copy copy = copies.save(one(of).on(destinationId, destination, who));
        recordCheck(copy.id(), outcome, 0, who);
        return copy.id();
    }

    /** Takes an image that lies on a drive onto the shelf, unchecked; false when it is not there. */
    @Transactional
    public boolean takeOn(String destinationId, String destination, String name, String diskId, String computer, String disk, String who)
        throws IOException {
        try {
            ImageFacts facts = store.facts(ImageAt.of(destinationId, name));
            if (!exists(destinationId, name)) {
                copies.save(Copy.first(Image.found(Image.Origin.MADE, name, new Of(computer, diskId, disk, ""), clock.instant(), who),
                    destinationId, destination).sized(facts));
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
        List<LostFiles> lost = outcome.lost().stream()
            .map(each -> new LostFiles(each.partition(),
                new FilesHit(each.hit().paths().subList(0, Math.min(KEPT_NAMES, each.hit().paths().size())),
                    each.hit().count(), each.hit().note())))
            .toList();
        checks.save(new ImageCheck(imageId, clock.instant(), who, outcome.level(), outcome.ok(), outcome.readBytes(), seconds,
            written(kept), written(lost), note));
    }

    /** A person's signature that a computer was started from it, with what was looked at. */
    @Transactional
    public void signBooted(UUID imageId, String lookedAt, String who) {
        one(imageId);
        checks.save(new ImageCheck(imageId, clock.instant(), who, ProofLevel.BOOTED, true, 0, 0, "[]", "[]", lookedAt));
    }

    @Transactional
    public void comment(UUID imageId, String text) {
        Copy copy = one(imageId);
        copy.image().comment(text);
        copies.save(copy);
    }

    @Transactional
    public void lacks(UUID imageId, Lacks what) {
        Copy copy = one(imageId);
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

    /** As people know it; its identity when it is not known any more. */
    public String destinationName(String destinationId) throws IOException {
        return store.destinations().stream().filter(d -> d.id().equals(destinationId)).map(Destination::name).findFirst()
            .orElse(destinationId);
    }

    /** The same, also when drives cannot be asked now. */
    public String destinationNameOrId(String destinationId) {
        try {
            return destinationName(destinationId);
        } catch (IOException cannotTell) {
            return destinationId;
        }
    }

    public boolean areCopies(UUID one, UUID other) {
        return !one.equals(other) && one(one).image().id().equals(one(other).image().id());
    }

    /** The other copies that are kept. */
    List<Copy> copiesOf(Copy copy) {
        return keptOf(copy.image()).filter(other -> !other.id().equals(copy.id())).toList();
    }

    private Stream<Copy> keptOf(Image image) {
        return copies.ofImage(image.id()).stream().filter(Copy::isKept);
    }

    static ImageShelf.Kept kept(Copy copy, List<ImageCheck> itsChecks) {
        return ImageShelf.Kept.of(copy, itsChecks.stream()
            .map(c -> new Evidence(c.level(), c.ok(), c.checkedAt(), c.checkedBy(), copy.destination(), c.seconds())).toList());
    }

    /** An image with how far it is proven. */
    public record Standings(UUID id, String name, String computer, String disk, String diskId, String destinationId, String destination,
        Instant madeAt, boolean encrypted, int recheckDays, UUID imageId,
        boolean paper, Standing standing, long storedBytes, Lacks lacks) {
    }

    /**
     * A copy on the shelf, kept or in the trash.
     *
     * @param origin   "made", "found" or "paper"
     * @param bootedBy who signed last that a computer was started from it; empty when nobody did
     */
    public record OnShelf(Standings copy, boolean released, long usedBytes, long badBytes, String origin, Optional<String> bootedBy) {
    }

    /** Those kept and those in the trash whose image or drive matches words, case not counted; newest first. */
    public List<OnShelf> onShelf(String text) {
        return ShelfOrder.matching(shelf.now().all(), text).stream()
            .map(each -> new OnShelf(each.standings(), !each.isKept(), each.image().usedBytes(), each.image().badBytes(),
                each.image().origin().word(), each.bootedBy()))
            .toList();
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
