package app.granary.engine.remote;

import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.verify.PartsRead;
import java.io.IOException;
import java.util.List;
import java.util.Optional;

/**
 * A folder and what is in it. Paths are relative to it, with slashes; an empty string is the folder itself. Whoever carries these calls
 * over a line repeats one that was not answered; the other side does it once.
 *
 * <p>What is missing, there already or not empty is told by {@link java.nio.file.NoSuchFileException},
 * {@link java.nio.file.FileAlreadyExistsException} and {@link java.nio.file.DirectoryNotEmptyException}; what may not be done by a
 * {@link app.granary.core.fault.FaultException}.
 */
public interface RemoteFiles {
    /** Longest piece that is read or written at once, in bytes. */
    int MOST = 8 << 20;
    /** Longest piece by which a network is measured, in bytes: as long as those work is carried in. */
    int MOST_MEASURED = MOST / 2;

    /**
     * @param bytes          length of a file; of a folder 0
     * @param modifiedMillis since 1970, UTC
     */
    record Entry(boolean folder, long bytes, long modifiedMillis) {
    }

    /** Of the drive the folder lies on, in bytes. */
    record Room(long totalBytes, long usableBytes) {
    }

    /** How a file is opened to be written. */
    enum Open {
        /** It must not be there. */
        NEW,
        /** It is made when it is not there. */
        MADE,
        /** It must be there. */
        THERE,
        /** It is made, or emptied. */
        EMPTIED
    }

    /** Empty when there is nothing, or neither a file nor a folder. */
    Optional<Entry> entry(String path) throws IOException;

    List<String> names(String folder) throws IOException;

    /** @param most from 1 to {@link #MOST}; fewer bytes are given only at the end of the file, and none behind it */
    byte[] read(String path, long at, int most) throws IOException;

    void open(String path, Open how) throws IOException;

    /** @param bytes at most {@link #MOST} */
    void write(String path, long at, byte[] bytes) throws IOException;

    void truncate(String path, long bytes) throws IOException;

    /** Returns when a file, or the entries of a folder, are on the device. */
    void force(String path) throws IOException;

    void makeFolder(String path) throws IOException;

    void delete(String path) throws IOException;

    /** Renames; what lies there is replaced when that is asked for. */
    void move(String from, String to, boolean replacing) throws IOException;

    Room room() throws IOException;

    /** @return false when somebody else holds it */
    boolean lock(String path) throws IOException;

    void unlock(String path) throws IOException;

    /** Proves an image, by what the other side's own device gives back. */
    CheckOutcome prove(String bag, Passphrase passphrase, ProofLevel level, Watch watch) throws IOException;

    /**
     * Reads the parts of an image that is being made.
     *
     * @param imageJson a file there that says what it is to be, as its {@code data/image.json} will
     */
    PartsRead readParts(String bag, Passphrase passphrase, String imageJson, Watch watch) throws IOException;
}
