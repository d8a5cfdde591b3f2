package app.granary.engine.host;

import app.granary.engine.remote.RemoteFiles;
import java.io.Closeable;
import java.io.IOException;

/**
 * What lies on a machine's drives, lent to work that is done at another machine: of one image, or one file, and nothing beside it. Safe for
 * several threads.
 */
public interface Lender {
    /** What for. */
    enum Use {
        TO_READ,
        TO_WRITE
    }

    /** A folder of the machine, until this is closed. */
    interface Loan extends Closeable {
        RemoteFiles files();

        /** The folder in it that the image lies in, relative; empty for the folder itself. */
        String images();

        /** Where it lies, for people. */
        String location();
    }

    /**
     * One image, finished or unfinished, or one that is to be made. Its passphrase is not asked for.
     *
     * @throws app.granary.core.fault.FaultException when its drive is not attached, or has no room for it
     */
    Loan lend(ImageAt image, Use use) throws IOException;

    /** A file that can be written onto a stick, to be read; its folder is the loan's. */
    Loan lendRaw(String rawFileId) throws IOException;
}
