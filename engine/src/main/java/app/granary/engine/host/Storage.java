package app.granary.engine.host;

import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.codec.Codec;
import app.granary.engine.openpgp.Passphrase;
import java.util.OptionalLong;

/**
 * How an image is to be stored.
 *
 * @param level      one the codec has
 * @param splitBytes longest part; empty for one part
 * @param choice     what of the disk is read
 * @param comment    a person's words, which stay readable in the image; an empty string for none
 * @param passphrase encrypts the parts; none for an image that is not encrypted
 */
public record Storage(Codec codec, int level, OptionalLong splitBytes, SurveyChoice choice, String comment,
    Passphrase passphrase) {
    /** Not encrypted. */
    public Storage(Codec codec, int level, OptionalLong splitBytes, SurveyChoice choice) {
        this(codec, level, splitBytes, choice, "", Passphrase.NONE);
    }

    /** The same, with a person's words on it. */
    public Storage commented(String words) {
        return new Storage(codec, level, splitBytes, choice, words, passphrase);
    }

    /** The same, encrypted. */
    public Storage with(Passphrase secret) {
        return new Storage(codec, level, splitBytes, choice, comment, secret);
    }
}
