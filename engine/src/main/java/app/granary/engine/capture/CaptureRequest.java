package app.granary.engine.capture;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.image.ImageName;
import app.granary.engine.codec.Codec;
import app.granary.engine.openpgp.Passphrase;
import java.util.OptionalLong;

/**
 * What to make of a disk.
 *
 * @param name       the image's name
 * @param codec      how frames are compressed
 * @param level      a level the codec has
 * @param splitBytes longest part; empty for a single one, or of an encrypted image for parts of
 *                   {@link app.granary.engine.bag.BagWriter#ENCRYPTED_SPLIT}
 * @param passphrase encrypts the parts; none for an image that is not encrypted
 * @param identity   the disk's identity, kept in the image
 * @param comment    a person's words on it, kept readable in the image; an empty string for none
 * @param check      whether the bag is read back, digested and decoded before it gets its name
 */
public record CaptureRequest(ImageName name, Codec codec, int level, OptionalLong splitBytes, Passphrase passphrase, DiskIdentity identity,
    String comment, boolean check) {
    /** Without a comment. */
    public CaptureRequest(ImageName name, Codec codec, int level, OptionalLong splitBytes, Passphrase passphrase, DiskIdentity identity,
        boolean check) {
        this(name, codec, level, splitBytes, passphrase, identity, "", check);
    }
}
