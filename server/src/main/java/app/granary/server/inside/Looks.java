package app.granary.server.inside;

import app.granary.core.destination.Destination;
import app.granary.core.fault.FaultException;
import app.granary.core.image.Lacks;
import app.granary.engine.files.FileFacts;
import app.granary.engine.files.FileLine;
import app.granary.engine.files.FilePlace;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.Insides;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.server.image.Elsewhere;
import app.granary.server.image.Images;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** Which images can be looked into, by whom, and how one file stands in several of them. */
@Service
public class Looks {
    private static final int MOST_OTHERS = 40;
    /** Longer ones are told apart by length and chunks alone. */
    private static final long MOST_COMPARED = 64 << 20;

    private final Images images;
    private final Elsewhere elsewhere;
    private final ImageStore store;
    private final Insides insides;
    private final Unlocked unlocked;

    Looks(Images images, Elsewhere elsewhere, ImageStore store, Insides insides, Unlocked unlocked) {
        this.images = images;
        this.elsewhere = elsewhere;
        this.store = store;
        this.insides = insides;
        this.unlocked = unlocked;
    }

    /**
     * An image of the same disk.
     *
     * @param attached whether its drive is here
     */
    record Other(UUID id, String name, Instant madeAt, String destination, boolean attached) {
    }

    /** How the same file is in another image. */
    enum Same {
        SAME,
        /** There is one by that name, with other bytes. */
        OTHER,
        /** As long, but too long to be compared here. */
        AS_LONG,
        MISSING,
        LOCKED,
        AWAY
    }

    /** @param line empty unless it is there */
    record InOther(Same same, Optional<FileLine> line) {
    }

    public Images.Shelved shelved(UUID id) {
        Images.Shelved image = images.shelved(id);
        if (!image.kept() || image.format() == Images.Format.UNSEEN
            || image.format() == Images.Format.OTHER && elsewhere.lacks(id).equals(Lacks.UNTOLD)) {
            throw new Refused(HttpStatus.CONFLICT, "other-format", "imageId", image.kept() ? image.name()
                + (image.format() == Images.Format.UNSEEN ? " is a line of a paper log; its files were not seen."
                    : " was kept as found: nobody can tell what is in it. Open it with the tools that made it.")
                : image.name() + " was released. Take it back from the trash first.");
        }
        return image;
    }

    /** One in Granary's format. */
    public Images.Shelved own(UUID id) {
        Images.Shelved image = shelved(id);
        if (image.format() != Images.Format.GRANARY) {
            throw new Refused(HttpStatus.CONFLICT, "other-format", "imageId", image.name()
                + " was made with other tools. Open it with them; its page says which files it is.");
        }
        return image;
    }

    /** Which moment of the disk it is of. */
    Instant madeAt(UUID id) {
        return images.standings().stream().filter(each -> each.id().equals(id)).findFirst().map(Images.Standings::madeAt)
            .orElseThrow(() -> Refused.notFound("image"));
    }

    boolean locked(UUID id, String account) {
        Images.Shelved image = shelved(id);
        return image.encrypted() && unlocked.of(account, image.imageId()).isNone();
    }

    /** @throws FaultException when it does not open the image */
    void unlock(UUID id, String account, Passphrase passphrase) throws IOException {
        Images.Shelved image = shelved(id);
        insides.volumes(images.at(id, passphrase));
        unlocked.keep(account, image.imageId(), passphrase);
    }

    InsideFiles files(UUID id, String account) {
        return new InsideFiles(insides, at(id, account));
    }

    public ImageAt at(UUID id, String account) {
        Images.Shelved image = shelved(id);
        Passphrase passphrase = unlocked.of(account, image.imageId());
        if (image.encrypted() && passphrase.isNone()) {
            throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "locked", "passphrase", "It is encrypted. Enter its passphrase.");
        }
        return image.format() == Images.Format.OTHER ? ImageAt.made(image.destinationId(), elsewhere.expected(id).orElseThrow())
            : images.at(id, passphrase);
    }

    /** Newest first, one copy of each, an attached one where there is one. */
    List<Other> others(UUID id) throws IOException {
        Images.Shelved mine = images.shelved(id);
        Set<String> here = store.destinations().stream().filter(Destination::attached).map(Destination::id).collect(Collectors.toSet());
        List<Images.Standings> all = new ArrayList<>(images.standingsByDisk().getOrDefault(mine.diskId(), List.of()));
        all.removeIf(each -> each.paper() || each.imageId().equals(mine.imageId()));
        List<Other> out = new ArrayList<>();
        Set<UUID> seen = new HashSet<>();
        for (boolean attached : new boolean[] {true, false}) {
            for (Images.Standings each : all) {
                if (here.contains(each.destinationId()) == attached && images.shelved(each.id()).format() == Images.Format.GRANARY
                    && seen.add(each.imageId())) {
                    out.add(new Other(each.id(), each.name(), each.madeAt(), each.destination(), attached));
                }
            }
        }
        return out.stream().sorted((one, two) -> two.madeAt().compareTo(one.madeAt())).limit(MOST_OTHERS).toList();
    }

    /** Told by the chunks it lies in; where those differ but the length does not, by its bytes. */
    InOther compare(UUID id, UUID other, FilePlace place, String account) throws IOException {
        ImageAt mine = at(id, account);
        ImageAt theirs;
        FileFacts there;
        try {
            theirs = locked(other, account) ? images.at(other, mine.passphrase()) : at(other, account);
            there = insides.file(theirs, place);
        } catch (FaultException not) {
            return new InOther(switch (not.fault().kind()) {
                case BAD_CHOICE -> Same.MISSING;
                case LOCKED -> Same.LOCKED;
                case NOT_RECOGNISED, DEVICE_FAILED -> Same.AWAY;
                default -> throw not;
            }, Optional.empty());
        }
        Optional<FileLine> line = Optional.of(there.line());
        FileFacts here = insides.file(mine, place);
        if (here.line().bytes() != there.line().bytes() || !there.line().kind().equals("file")) {
            return new InOther(Same.OTHER, line);
        }
        if (here.stamp().equals(there.stamp())) {
            return new InOther(Same.SAME, line);
        }
        if (here.line().bytes() > MOST_COMPARED) {
            return new InOther(Same.AS_LONG, line);
        }
        return new InOther(insides.digest(mine, place, Watch.NONE).equals(insides.digest(theirs, place, Watch.NONE)) ? Same.SAME
            : Same.OTHER, line);
    }
}
