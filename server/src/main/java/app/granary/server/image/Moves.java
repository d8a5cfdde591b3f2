package app.granary.server.image;

import app.granary.core.fault.FaultException;
import app.granary.core.image.FolderName;
import app.granary.core.image.ImageName;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.Shelf;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionOperations;

/**
 * Moves images on their drives, and gives them other names. Where one goes is written down first, and what lies on the drive tells after a
 * kill whether it got there: its record follows it.
 */
@Service
public class Moves {
    private final Images images;
    private final CopyRepository copies;
    private final ImageStore store;
    private final List<Uses> uses;
    private final Journal journal;
    private final TransactionOperations transactions;

    Moves(Images images, CopyRepository copies, ImageStore store, List<Uses> uses, Journal journal, TransactionOperations transactions) {
        this.images = images;
        this.copies = copies;
        this.store = store;
        this.uses = List.copyOf(uses);
        this.journal = journal;
        this.transactions = transactions;
    }

    /**
     * @param folder on its drive, with slashes; an empty string for the one Granary keeps its images in
     * @param name   its name from then on; another one only for an image that lies on one drive
     */
    public synchronized void move(UUID copyId, String folder, String name, String who) throws IOException {
        Copy copy = images.one(copyId);
        String to = FolderName.parse(folder).text();
        String called = ImageName.parse(name).text();
        require(copy, to, called);
        String was = place(copy);
        go(copy, to, called);
        journal.add(who, "move", copy.image().computer() + " " + copy.image().disk(), Journal.Result.DONE, was + " lies in "
            + (to.isEmpty() ? "Granary's own folder" : to) + " on " + copy.destination() + " now, as " + called + ".",
            Journal.Facts.of(List.of(copy.destinationId()), Map.of(), "/images/" + copyId));
    }

    /**
     * Lays an image that was just made or copied where it is to lie; that is told by the run that made it.
     *
     * @return what to say of it, with a space before it; an empty string when it lies in Granary's own folder as it was made
     */
    public synchronized String lay(UUID copyId, String folder) {
        Copy copy = images.one(copyId);
        if (folder.equals(copy.folder())) {
            return "";
        }
        try {
            go(copy, FolderName.parse(folder).text(), copy.image().name());
            return " It lies in " + folder + ".";
        } catch (IOException failed) {
            return " It was to lie in " + folder + ", which failed: " + failed.getMessage()
                + " It is sound and lies in Granary's own folder; move it on its page.";
        }
    }

    private void go(Copy copy, String to, String called) throws IOException {
        transactions.executeWithoutResult(status -> {
            copy.movingTo(to + "|" + called);
            copies.save(copy);
        });
        try {
            store.shelf(copy.destinationId()).move(at(copy), new ImageAt(copy.destinationId(), to, called, Passphrase.NONE));
        } catch (IOException failed) {
            settle(copy);
            throw failed;
        }
        settle(copy);
    }

    private static String place(Copy copy) {
        return copy.image().name() + (copy.folder().isEmpty() ? "" : " in " + copy.folder());
    }

    private void require(Copy copy, String folder, String name) {
        boolean renamed = !name.equals(copy.image().name());
        if (Images.format(copy.image()) != Images.Format.GRANARY || !copy.isKept()) {
            throw new Refused(HttpStatus.CONFLICT, "other-format", "folder", "Only an image of Granary's own that is on the shelf is moved "
                + "here. What other tools made is moved with them, and added again.");
        }
        if (!renamed && folder.equals(copy.folder())) {
            throw new Refused(HttpStatus.CONFLICT, "same-place", "folder", "It lies there already, under that name.");
        }
        for (Uses each : uses) {
            Set<String> by = each.now().getOrDefault(copy.id(), Set.of());
            if (!by.isEmpty()) {
                throw new Refused(HttpStatus.CONFLICT, "in-use", "folder", "It is in use: " + by.iterator().next() + ". Move it once that "
                    + "has ended.");
            }
        }
        if (renamed && copies.ofImage(copy.image().id()).stream().filter(each -> each.shelf() != Copy.Shelf.GONE).count() > 1) {
            throw new Refused(HttpStatus.CONFLICT, "several-copies", "name", "This image has copies on other drives, and all copies share "
                + "one name. Keep the name; the folder may differ on each drive.");
        }
        if (copies.isTaken(copy.destinationId(), folder, name)) {
            throw new Refused(HttpStatus.CONFLICT, "name-taken", "name", "There is an image of that name in that folder. Choose another.");
        }
    }

    private static ImageAt at(Copy copy) {
        return new ImageAt(copy.destinationId(), copy.folder(), copy.image().name(), Passphrase.NONE);
    }

    /** Moves that a kill left open, as soon as their drives are there. */
    @Scheduled(initialDelay = 20_000, fixedDelay = 60_000)
    public synchronized void look() {
        for (Copy each : copies.moving()) {
            try {
                settle(each);
            } catch (IOException away) {
                continue; // it is told once its drive is attached
            }
        }
    }

    /** Where it lies is told by the drive; nothing is changed where that cannot be told. */
    private void settle(Copy copy) throws IOException {
        String[] to = copy.movingTo().split("\\|", 2);
        Shelf shelf;
        try {
            shelf = store.shelf(copy.destinationId());
        } catch (FaultException notAttached) {
            return;
        }
        boolean there = shelf.lies(new ImageAt(copy.destinationId(), to[0], to[1], Passphrase.NONE));
        if (!there && !shelf.lies(at(copy))) {
            return;
        }
        transactions.executeWithoutResult(status -> {
            if (there) {
                copy.lying(to[0]);
                copy.image().called(to[1]);
            }
            copy.movingTo("");
            copies.save(copy);
        });
    }
}
