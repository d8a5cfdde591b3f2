package app.granary.server.reconciliation;

import app.granary.core.destination.Destination;
import app.granary.core.measure.Moments;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.engine.bag.Digests;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.Shelf;
import app.granary.engine.shell.ShellNote;
import app.granary.engine.shell.ShellNotes;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.computer.DisksOnRecord.DiskOnRecord;
import app.granary.server.image.ImageRecords;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.office.OfficeDays;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionOperations;

/**
 * Takes on what was done by command in a bare shell, as its notes on a drive tell: images of disks that are on record, copies, checks and
 * comments, each once. What a note says of a check stands beside it as told, not measured here.
 */
@Component
class ShellWork {
    /** Where images lie on a drive, and where in Granary's own folder. */
    private static final List<String> FOLDERS = List.of("granary-images", "");
    private static final String TOLD = "As the command line noted it on the drive; not measured here.";

    private final ImageStore store;
    private final Images images;
    private final ImageRecords records;
    private final DisksOnRecord disks;
    private final ShellNoteRowRepository taken;
    private final Journal journal;
    private final OfficeDays office;
    private final TransactionOperations transactions;
    private final Clock clock;

    ShellWork(ImageStore store, Images images, ImageRecords records, DisksOnRecord disks, ShellNoteRowRepository taken, Journal journal,
        OfficeDays office, TransactionOperations transactions, Clock clock) {
        this.store = store;
        this.images = images;
        this.records = records;
        this.disks = disks;
        this.taken = taken;
        this.journal = journal;
        this.office = office;
        this.transactions = transactions;
        this.clock = clock;
    }

    /** What cannot be taken on yet, since its disk or its image is not known, is looked at again the next time. */
    void takeOn(Destination drive) throws IOException {
        Shelf shelf = store.shelf(drive.id());
        for (String folder : FOLDERS) {
            Optional<byte[]> file = shelf.smallFile(folder, ShellNotes.FILE, ShellNotes.LONGEST_FILE);
            for (ShellNote note : file.map(ShellNotes::read).orElse(List.of())) {
                String digest = Digests.of((drive.id() + "\n" + ShellNotes.line(note)).getBytes(StandardCharsets.UTF_8));
                if (!taken.existsById(digest)) {
                    takeOn(drive, note, digest);
                }
            }
        }
    }

    private void takeOn(Destination drive, ShellNote note, String digest) throws IOException {
        List<DiskOnRecord> meant = disks.all().stream().filter(each -> each.identity().same(note.disk())).toList();
        Optional<DiskOnRecord> disk = meant.size() == 1 ? Optional.of(meant.get(0)) : Optional.empty(); // of two alike it is neither
        boolean makes = note.did() == ShellNote.Did.CAPTURE || note.did() == ShellNote.Did.COPY;
        if (disk.isEmpty() || copy(drive, note).isEmpty() && !(makes && arrives(drive, note, disk.get()))) {
            return;
        }
        UUID id = copy(drive, note).orElseThrow();
        CheckOutcome outcome = new CheckOutcome(note.level(), note.ok() ? List.of()
            : List.of(new Problem(note.image(), 0, 0, "", "The command line found it damaged.")), note.bytes());
        transactions.executeWithoutResult(status -> {
            records.recordCheck(id, at(note), outcome, note.seconds(), who(note), TOLD);
            if (makes && !note.comment().isEmpty()) {
                records.comment(id, note.comment());
            }
            taken.save(new ShellNoteRow(digest, clock.instant()));
            journal.add(who(note), note.did().word(), disk.get().computer() + " " + disk.get().name(),
                note.ok() ? Journal.Result.DONE : Journal.Result.FAILED, sentence(drive, note),
                Journal.Facts.of(List.of(disk.get().identity().serial(), drive.id()), Map.of("bytes", note.bytes()), "/images/" + id));
        });
    }

    private Optional<UUID> copy(Destination drive, ShellNote note) {
        return images.onDrive(drive.id()).stream().filter(each -> each.name().equalsIgnoreCase(note.image())).map(Images.OnDrive::id)
            .findFirst();
    }

    /** A copy of an image that is on record is one more copy of it. */
    private boolean arrives(Destination drive, ShellNote note, DiskOnRecord disk) throws IOException {
        Optional<UUID> first = note.did() != ShellNote.Did.COPY ? Optional.empty()
            : images.standings().stream().filter(each -> each.diskId().equals(disk.id()) && each.name().equalsIgnoreCase(note.image()))
                .map(Images.Standings::id).findFirst();
        if (first.isPresent()) {
            return records.takeOnCopy(first.get(), drive.id(), drive.name(), who(note));
        }
        return records.takeOn(drive.id(), drive.name(), note.image(), new Images.Of(disk.computer(), disk.id(), disk.name(),
            disk.identity().serial()), at(note), who(note));
    }

    /** Whatever name was typed there, it is nobody's account here. */
    private static String who(ShellNote note) {
        return note.by() + ", in a shell";
    }

    /** A clock that was wrong makes nothing younger than now. */
    private Instant at(ShellNote note) {
        return note.at().isAfter(clock.instant()) ? clock.instant() : note.at();
    }

    private String sentence(Destination drive, ShellNote note) {
        return note.image() + " was " + note.did().past() + " in a shell on " + Moments.full(note.at(), office.days().calendar().zone())
            + (note.ok() ? ", checked to " + note.level().word() : ", and found damaged") + "; " + drive.name() + " tells of it"
            + (note.comment().isEmpty() ? "." : ": " + note.comment());
    }
}
