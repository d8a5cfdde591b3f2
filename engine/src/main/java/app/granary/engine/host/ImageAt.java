package app.granary.engine.host;

import app.granary.engine.openpgp.Passphrase;

/**
 * One copy of an image in Granary's format.
 *
 * @param destinationId where it lies
 * @param folder        the folder it lies in, relative to the destination, with slashes; an empty string for the one Granary keeps its
 *                      images in there
 * @param name          its name there
 * @param passphrase    opens it; none when it is not encrypted or need not be opened
 */
public record ImageAt(String destinationId, String folder, String name, Passphrase passphrase) {
    /** In the folder Granary keeps its images in. */
    public ImageAt(String destinationId, String name, Passphrase passphrase) {
        this(destinationId, "", name, passphrase);
    }

    /** Not to be opened by a passphrase. */
    public static ImageAt of(String destinationId, String name) {
        return new ImageAt(destinationId, name, Passphrase.NONE);
    }
}
