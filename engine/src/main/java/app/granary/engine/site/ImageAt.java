package app.granary.engine.site;

import app.granary.engine.openpgp.Passphrase;

/**
 * One copy of an image.
 *
 * @param destinationId where it lies
 * @param name          its name there
 * @param passphrase    opens it; none when it is not encrypted or need not be opened
 */
public record ImageAt(String destinationId, String name, Passphrase passphrase) {
    /** Not to be opened by a passphrase. */
    public static ImageAt of(String destinationId, String name) {
        return new ImageAt(destinationId, name, Passphrase.NONE);
    }
}
