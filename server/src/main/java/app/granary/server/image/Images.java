package app.granary.server.image;

import app.granary.core.destination.Destination;
import app.granary.core.estimate.ImageHistory;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.image.Lacks;
import app.granary.core.proof.Evidence;
import app.granary.core.proof.LostFiles;
import app.granary.core.proof.Problem;
import app.granary.core.proof.Standing;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.ImageStore;
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
public class Images {
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
     * @param codec   {@code "zstd"} and so on
     * @param comment a person's words on it; an empty string for none
     * @param size    how big it was thought to become
     */
    public record Wanted(Of of, String codec, int level, String comment, SizeEstimate size) {
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

    /** A disk's images made with a codec, for the next estimate of it; those found damaged count too, their sizes are no less true. */
    @Transactional(readOnly = true)
    public List<ImageHistory.Past> pastOf(String diskId, String codec) {
        return copies.ofDisk(diskId, codec).stream().filter(copy -> !copy.copied() && copy.image().usedBytes() > 0)
            .map(copy -> new ImageHistory.Past(
                Math.max(0, Duration.between(copy.image().madeAt(), clock.instant()).toHours() / 24.0), copy.image().usedBytes(),
                copy.storedBytes()))
            .toList();
    }

    /**
     * Where images of a disk lie, each with when its newest there was made; one partition alone, found made elsewhere, is none of its
     * rhythm.
     */
    @Transactional(readOnly = true)
    public Map<String, Instant> newestByDestination(String diskId) {
        return shelf.now().byDisk().getOrDefault(diskId, List.of()).stream().filter(image -> image.lacks().countsForDisk())
            .collect(Collectors.toMap(Standings::destinationId, Standings::madeAt, (newest, older) -> newest));
    }

    /** When its newest image was made, one partition alone not counted; empty without one. */
    public Optional<Instant> newestOf(String diskId) {
        for (Standings image : shelf.now().byDisk().getOrDefault(diskId, List.of())) {
            if (image.lacks().countsForDisk()) {
                return Optional.of(image.madeAt());
            }
        }
        return Optional.empty();
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

    /** Newest first. */
    List<ImageCheck> checksOf(UUID id) {
        return checks.findByCopyIdOrderByCheckedAtDesc(id);
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

    /**
     * Those kept and those in the trash whose image or drive matches words, case not counted; newest first.
     *
     * @param text an empty string for all: the very same list as before, then, while nothing of them has changed
     */
    public List<OnShelf> onShelf(String text) {
        return text.isBlank() ? shelf.onShelf() : ShelfOrder.matching(shelf.now().all(), text).stream().map(ImageShelf.Kept::onShelf)
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
