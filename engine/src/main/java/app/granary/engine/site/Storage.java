package app.granary.engine.site;

import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.codec.Codec;
import java.util.OptionalLong;

/**
 * How an image is to be stored.
 *
 * @param level      one the codec has
 * @param splitBytes longest part; empty for one part
 * @param choice     what of the disk is read
 */
public record Storage(Codec codec, int level, OptionalLong splitBytes, SurveyChoice choice) {
}
