package app.granary.engine.host;

import app.granary.engine.progress.Watch;
import app.granary.engine.remote.PatientFiles;
import app.granary.engine.remote.RemoteFileSystem;
import java.io.Closeable;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;

/** What other machines lend to this one, by names it gives; each for one piece of work. Safe for several threads. */
public final class BorrowedFolders implements RemoteFolders {
    private final Map<String, Folder> known = new ConcurrentHashMap<>();

    /**
     * At this machine's hand until it is closed. The loan stays its owner's to close.
     *
     * @param id what the destination is called here
     */
    public record Borrowed(String id, Runnable end) implements Closeable {
        @Override
        public void close() {
            end.run();
        }
    }

    /**
     * @param from  who lends, for people
     * @param watch of the work: what waits for a machine that cannot be reached ends when it is stopped
     */
    public Borrowed borrow(Lender.Loan loan, String from, Watch watch) {
        String id = "borrowed/" + UUID.randomUUID();
        Path root = new RemoteFileSystem(PatientFiles.of(loan.files(), watch::stopRequested), from).root();
        known.put(id, new Folder(root, loan.images().isEmpty() ? root : root.resolve(loan.images())));
        return new Borrowed(id, () -> known.remove(id));
    }

    @Override
    public Optional<Folder> folder(String destinationId) {
        return Optional.ofNullable(known.get(destinationId));
    }
}
