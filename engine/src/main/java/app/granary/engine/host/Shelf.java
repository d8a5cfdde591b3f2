package app.granary.engine.host;

import app.granary.engine.elsewhere.ElsewhereImage;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Optional;

/** A destination that is attached, as the place where images lie and may be moved away from. */
public interface Shelf {
    /** @param key a name for this release, by which it is taken back or emptied */
    void release(String key, ImageAt image) throws IOException;

    /** Moves the files of an image made elsewhere; what else lies in its folder stays. */
    void release(String key, ElsewhereImage image) throws IOException;

    /**
     * Moves an image, in one step, to another folder of the same drive, or under another name.
     *
     * @param to with a folder below the destination, which is made where it is missing; an empty string for the one Granary keeps its
     *           images in
     * @throws app.granary.core.fault.FaultException when something lies there already, or the folder leads out of the drive
     */
    void move(ImageAt from, ImageAt to) throws IOException;

    /**
     * Whether an image's folder is where it was.
     *
     * @throws IOException when that cannot be told: a drive that does not answer has lost nothing yet
     */
    boolean lies(ImageAt image) throws IOException;

    /**
     * Whether all files of an image made elsewhere are where they were.
     *
     * @throws IOException when that cannot be told
     */
    boolean lies(ElsewhereImage image) throws IOException;

    /**
     * Names of the images in the folder Granary keeps its own in, whoever made them; unfinished ones are not among them. Empty where there
     * is no such folder.
     */
    List<String> images() throws IOException;

    /** What lies in the trash, by the keys of its releases. */
    List<String> inTrash() throws IOException;

    /** Whether something lies in the trash by that key. */
    boolean holds(String key);

    /** Puts what was released back where it lay. */
    void takeBack(String key) throws IOException;

    /** Deletes what was released, for good. */
    void empty(String key) throws IOException;

    /** Removes one file below the destination's root; nothing where there is none, or a link leads to it. */
    void removeFile(String folder, String name) throws IOException;

    /**
     * @return a small file below the destination's root; empty where there is none, it is longer than {@code most} bytes, or a link leads
     *         to it
     */
    Optional<byte[]> smallFile(String folder, String name, int most) throws IOException;

    /**
     * Writes a file below the destination's root under a temporary name, forces it, and names it; one of that name is replaced.
     *
     * @param content read to its end, and not closed
     */
    void putFile(String folder, String name, InputStream content) throws IOException;
}
