package app.granary.engine.hosts;

import app.granary.engine.remote.ServedFolder;
import java.io.Closeable;
import java.io.IOException;

/** Carries the calls of a computer that joined to one image's folder on the office's machine, for one piece of work. */
public interface Serving {
    /** Until it is closed; the folder is closed with it. */
    interface Served extends Closeable {
        /** What the other machine calls it. */
        String destinationId();
    }

    /** Nobody but that computer reaches the folder. */
    Served serve(Member to, ServedFolder folder) throws IOException;
}
