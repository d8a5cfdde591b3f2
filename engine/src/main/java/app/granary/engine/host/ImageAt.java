package app.granary.engine.host;

import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.openpgp.Passphrase;
import java.util.Optional;

/**
 * One copy of an image.
 *
 * @param destinationId where it lies
 * @param folder        the folder it lies in, relative to the destination, with slashes; an empty string for the one Granary keeps its
 *                      images in there
 * @param name          its name there
 * @param passphrase    opens it; none when it is not encrypted or need not be opened
 * @param elsewhere     what it is, when other tools made it; empty for one in Granary's format
 */
public record ImageAt(String destinationId, String folder, String name, Passphrase passphrase, Optional<ElsewhereImage> elsewhere) {
    public ImageAt {
        elsewhere = elsewhere == null ? Optional.empty() : elsewhere; // as an agent of an earlier version tells it
    }

    /** In Granary's format. */
    public ImageAt(String destinationId, String folder, String name, Passphrase passphrase) {
        this(destinationId, folder, name, passphrase, Optional.empty());
    }

    /** In the folder Granary keeps its images in. */
    public ImageAt(String destinationId, String name, Passphrase passphrase) {
        this(destinationId, "", name, passphrase);
    }

    /** Made by other tools. */
    public static ImageAt made(String destinationId, ElsewhereImage image) {
        return new ImageAt(destinationId, image.folder(), image.name(), Passphrase.NONE, Optional.of(image));
    }

    /** Not to be opened by a passphrase. */
    public static ImageAt of(String destinationId, String name) {
        return new ImageAt(destinationId, name, Passphrase.NONE);
    }
}
