package app.granary.engine.host;

import app.granary.core.disk.Sparse;
import app.granary.engine.files.DiskFiles;
import app.granary.engine.files.FileFacts;
import app.granary.engine.files.FilePlace;
import app.granary.engine.files.FolderPage;
import app.granary.engine.files.FolderSearch;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.util.List;

/**
 * Folders and files in images, without restoring them. Nothing here writes to an image. A place that is not there, a folder or a file that
 * cannot be read, and a passphrase that does not fit are refused with a {@link app.granary.core.fault.FaultException}.
 */
public interface Insides {
    /** The most bytes one answer holds. */
    int MOST_BYTES = 2 << 20;

    /**
     * Of the disk it was made of.
     *
     * @param scheme of its table: "gpt", "mbr" or "none"
     */
    record Shape(long sizeBytes, int sectorBytes, String scheme) {
    }

    Shape shape(ImageAt image) throws IOException;

    /**
     * Bytes of the disk.
     *
     * @param length at most {@link #MOST_BYTES}
     */
    byte[] read(ImageAt image, long fromBytes, int length) throws IOException;

    /** Where the disk surely holds but zeros. */
    Sparse.Stretch stretch(ImageAt image, long atBytes) throws IOException;

    /** Its partitions, in the order of their table. */
    List<DiskFiles.Volume> volumes(ImageAt image) throws IOException;

    FolderPage list(ImageAt image, FilePlace folder, FolderPage.Asked asked) throws IOException;

    /** @param mostMillis after which what was found so far is the answer */
    FolderSearch search(ImageAt image, FilePlace below, String text, long mostMillis) throws IOException;

    FileFacts file(ImageAt image, FilePlace file) throws IOException;

    /** @return SHA-256 of its bytes, in hexadecimal */
    String digest(ImageAt image, FilePlace file, Watch watch) throws IOException;

    /**
     * @param from the first byte that is wanted; whoever asks on where the last answer ended is answered quickest
     * @param most at most {@link #MOST_BYTES}
     * @return none at the end of the file
     */
    byte[] bytes(ImageAt image, FilePlace file, long from, int most) throws IOException;
}
