package app.granary.server.retention;

import app.granary.core.measure.Sizes;
import app.granary.core.retention.ShelvedCopy;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.Shelf;
import app.granary.engine.host.ImageStore;
import app.granary.server.image.Elsewhere;
import app.granary.server.image.ImageRecords;
import app.granary.server.image.Images;
import app.granary.server.image.RoomMaker;
import app.granary.server.journal.Journal;
import app.granary.server.office.OfficeChoices;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.data.domain.PageRequest;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Releases images: asked for, decided anew at that moment, written down, then moved into the trash of their drive, from which they can be
 * taken back until it is emptied. One at a time, so that two people cannot release each other's last one.
 */
@Service
public class Releases implements RoomMaker {
    static final String BY = "Granary";
    private static final int SHOWN = 200;
    private static final Set<ImageRelease.State> OPEN = EnumSet.of(ImageRelease.State.WAITING, ImageRelease.State.FAILED);

    private final DryRuns dryRuns;
    private final ImageReleaseRepository releases;
    private final Images images;
    private final ImageRecords imageRecords;
    private final Elsewhere elsewhere;
    private final ImageStore store;
    private final OfficeChoices choices;
    private final Journal journal;
    private final TransactionTemplate transactions;
    private final Clock clock;

    Releases(DryRuns dryRuns, ImageReleaseRepository releases, Images images, ImageRecords imageRecords, Elsewhere elsewhere,
        ImageStore store, OfficeChoices choices,
        Journal journal, TransactionTemplate transactions, Clock clock) {
        this.dryRuns = dryRuns;
        this.releases = releases;
        this.images = images;
        this.imageRecords = imageRecords;
        this.elsewhere = elsewhere;
        this.store = store;
        this.choices = choices;
        this.journal = journal;
        this.transactions = transactions;
        this.clock = clock;
    }

    /** One that could not be moved or removed. */
    public record Troubled(String imageName, String trouble) {
    }

    public List<Troubled> troubled() {
        return releases.findByStateInOrderByAskedAt(Set.of(ImageRelease.State.FAILED)).stream()
            .map(each -> new Troubled(each.imageName(), each.trouble())).toList();
    }

    List<ImageRelease> newest() {
        return releases.findByOrderByAskedAtDesc(PageRequest.of(0, SHOWN));
    }

    /**
     * Releases images that no rule keeps, each with all its copies: one of them alone would leave an image that the rules speak of as if it
     * were whole.
     *
     * @param wanted identities of images
     * @return of the releases, one for each copy
     * @throws Refused when any of them is kept by now, or was released already; none is released then
     */
    public synchronized List<UUID> release(Collection<UUID> wanted, String who) {
        Map<UUID, DryRuns.Decided> decided = dryRuns.all().stream().flatMap(disk -> disk.images().stream())
            .collect(Collectors.toMap(DryRuns.Decided::imageId, Function.identity()));
        for (UUID id : wanted) {
            DryRuns.Decided now = decided.get(id);
            if (now == null) {
                throw new Refused(HttpStatus.CONFLICT, "released-already", "",
                    releases.findByCopyIdInOrderByAskedAtDesc(images.copiesOf(id)).stream().findFirst()
                        .map(before -> before.imageName() + " was released by " + before.askedBy()
                            + " already. Nothing else was released; look at the list again.")
                        .orElse("An image of the list is not there any more. Nothing was released; look at the list again."));
            }
            if (now.decision().kept()) {
                throw new Refused(HttpStatus.CONFLICT, "kept-meanwhile", "",
                    now.any().name() + " stays after all. " + now.decision().why() + " Nothing was released; look at the list again.");
            }
        }
        List<ImageRelease> asked = transactions
            .execute(status -> wanted.stream().distinct().map(decided::get).flatMap(image -> image.copies().stream().map(each -> {
                imageRecords.release(each.copy().id());
                return releases.save(ImageRelease.asked(each.copy(), image.decision(), clock.instant(), who));
            })).toList());
        for (ImageRelease each : asked) {
            journal.add(who, "release", each.disk(), Journal.Result.BEGUN,
                each.imageName() + " on " + each.destination() + " is released, " + Sizes.decimal(each.bytes()) + ". " + each.why(),
                Journal.Facts.of(List.of(each.destinationId()), Map.of("bytes", each.bytes()), "/images/" + each.copyId()));
        }
        carryOut();
        return asked.stream().map(ImageRelease::id).toList();
    }

    /** Moves what waits for its drive or failed before, and empties what has lain in the trash for long enough. */
    synchronized void carryOut() {
        Set<String> attached = attached();
        for (ImageRelease each : releases.findByStateInOrderByAskedAt(OPEN)) {
            if (attached.contains(each.destinationId())) {
                move(each);
            }
        }
        Duration kept = Duration.ofDays(choices.trashDays());
        for (ImageRelease each : releases.findByStateInOrderByAskedAt(Set.of(ImageRelease.State.TRASH))) {
            if (attached.contains(each.destinationId()) && !settled(each) && !each.movedAt().plus(kept).isAfter(clock.instant())) {
                empty(each, "it lay there for " + choices.trashDays() + " days");
            }
        }
    }

    /**
     * A kill between the drive and the database, or other hands, leave the two apart: what lies on the drive is the truth, and the journal
     * tells of it.
     */
    private boolean settled(ImageRelease each) {
        try {
            Shelf shelf = store.shelf(each.destinationId());
            if (shelf.holds(each.key())) {
                return false;
            }
            boolean back = elsewhere.lies(shelf, each.copyId());
            store.shelf(each.destinationId()); // refused when the drive was taken off meanwhile: its folder is empty then, and that says
                                              // nothing of it
            transactions.executeWithoutResult(status -> {
                each.end(back ? ImageRelease.State.TAKEN_BACK : ImageRelease.State.EMPTIED, clock.instant());
                releases.save(each);
                if (back) {
                    imageRecords.takeBack(each.copyId());
                } else {
                    imageRecords.gone(each.copyId());
                }
            });
            journal.add(BY, back ? "take back" : "empty trash", each.disk(), Journal.Result.NOTE,
                each.imageName()
                    + (back ? " is where it was on " + each.destination() + ", and no longer in the trash: it counts as taken back."
                        : " is no longer in the trash of " + each.destination() + ", and Granary did not remove it: it counts as gone."),
                facts(each));
            return true;
        } catch (IOException unreachable) {
            return true; // it is not known where it lies, so nothing is removed
        }
    }

    /** The keys of every release there ever was, as its folder in a trash is called. */
    public Set<String> keys() {
        return releases.findAll().stream().map(ImageRelease::key).collect(Collectors.toSet());
    }

    private Set<String> attached() {
        try {
            return store.destinations().stream().filter(d -> d.attached()).map(d -> d.id()).collect(Collectors.toSet());
        } catch (IOException unreachable) {
            return Set.of();
        }
    }

    private void move(ImageRelease each) {
        try {
            Shelf shelf = store.shelf(each.destinationId());
            Optional<ElsewhereImage> other = elsewhere.expected(each.copyId());
            if (other.isPresent()) {
                shelf.release(each.key(), other.get());
            } else {
                shelf.release(each.key(), images.at(each.copyId(), Passphrase.NONE));
            }
            each.moved(clock.instant());
            releases.save(each);
            journal.add(BY, "release", each.disk(), Journal.Result.DONE,
                each.imageName() + " was moved to the trash of " + each.destination() + ". It can be taken back for " + choices.trashDays()
                    + " days, or until its room is needed.",
                facts(each));
        } catch (IOException failed) {
            boolean news = each.state() != ImageRelease.State.FAILED;
            each.failed("It could not be moved: " + failed.getMessage());
            releases.save(each);
            if (news) {
                journal.add(BY, "release", each.disk(), Journal.Result.FAILED,
                    each.imageName() + " could not be moved to the trash of " + each.destination() + ": " + failed.getMessage()
                        + " It is tried again.",
                    facts(each));
            }
        }
    }

    private static Journal.Facts facts(ImageRelease each) {
        return Journal.Facts.of(List.of(each.destinationId()), Map.of("bytes", each.bytes()), "/retention");
    }

    private boolean empty(ImageRelease each, String why) {
        try {
            store.shelf(each.destinationId()).empty(each.key());
            transactions.executeWithoutResult(status -> {
                each.end(ImageRelease.State.EMPTIED, clock.instant());
                releases.save(each);
                imageRecords.gone(each.copyId());
            });
            journal.add(BY, "empty trash", each.disk(), Journal.Result.DONE,
                each.imageName() + " was removed from the trash of " + each.destination() + " for good, since " + why + "; "
                    + Sizes.decimal(each.bytes()) + " were given back.",
                facts(each));
            return true;
        } catch (IOException failed) {
            journal.add(BY, "empty trash", each.disk(), Journal.Result.FAILED,
                each.imageName() + " could not be removed from the trash of " + each.destination() + ": " + failed.getMessage(),
                facts(each));
            return false;
        }
    }

    /** @throws Refused when it is emptied, or its drive is not attached */
    public synchronized void takeBack(UUID id, String who) throws IOException {
        ImageRelease release = releases.findById(id).orElseThrow(() -> Refused.notFound("release"));
        if (release.state() == ImageRelease.State.EMPTIED || release.state() == ImageRelease.State.TAKEN_BACK) {
            throw new Refused(HttpStatus.CONFLICT, "ended", "",
                release.imageName()
                    + (release.state() == ImageRelease.State.EMPTIED ? " was removed from the trash for good; it cannot be taken back."
                        : " was taken back already."));
        }
        if (release.state() == ImageRelease.State.TRASH) {
            if (!attached().contains(release.destinationId())) {
                throw new Refused(HttpStatus.CONFLICT, "unfit-attached", "",
                    release.destination() + " is not attached. Attach it, then take the image back; it stays in the trash until then.");
            }
            store.shelf(release.destinationId()).takeBack(release.key());
        } else if (attached().contains(release.destinationId()) && store.shelf(release.destinationId()).holds(release.key())) {
            store.shelf(release.destinationId()).takeBack(release.key());
        }
        transactions.executeWithoutResult(status -> {
            release.end(ImageRelease.State.TAKEN_BACK, clock.instant());
            releases.save(release);
            imageRecords.takeBack(release.copyId());
        });
        journal.add(who, "take back", release.disk(), Journal.Result.DONE,
            release.imageName() + " was taken back from the trash of " + release.destination() + ".", facts(release));
    }

    @Override
    public synchronized long trashBytes(String destinationId) {
        return inTrash(destinationId).stream().mapToLong(ImageRelease::bytes).sum();
    }

    private List<ImageRelease> inTrash(String destinationId) {
        return releases.findByDestinationIdAndStateOrderByMovedAt(destinationId, ImageRelease.State.TRASH);
    }

    @Override
    public synchronized long makeRoom(String destinationId, long bytes) {
        if (trashBytes(destinationId) < bytes) {
            return 0;
        }
        long given = 0;
        for (ImageRelease each : inTrash(destinationId)) {
            if (given < bytes && empty(each, "its room is needed")) {
                given += each.bytes();
            }
        }
        return given;
    }

    /**
     * Releases what plans let go of by themselves. Nothing of a disk whose newest image is not proven yet: the newest may turn out bad, and
     * then the old ones are what there is.
     */
    synchronized int automatic() {
        List<UUID> going = new ArrayList<>();
        for (DryRuns.DiskRun disk : dryRuns.all()) {
            if (disk.automatic() && disk.images().get(0).is(ShelvedCopy.State.PROVEN)) {
                disk.images().stream().filter(each -> !each.decision().kept()).forEach(each -> going.add(each.imageId()));
            }
        }
        return going.isEmpty() ? 0 : release(going, BY).size();
    }
}
