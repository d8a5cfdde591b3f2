package app.granary.server.estimate;

import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.codec.Codec;
import app.granary.engine.site.Storage;
import java.io.IOException;
import java.util.OptionalLong;

/** How an image is to be stored, as it comes over the wire: words and nullable numbers. */
public final class StorageChoice {
    private StorageChoice() {
    }

    /**
     * @param level      null for the codec's usual one
     * @param splitBytes null for a single part
     */
    public static Storage of(String codec, Integer level, Long splitBytes, boolean allBlocks, boolean keepSwap) throws IOException {
        Codec chosen = Codec.parse(codec);
        return new Storage(chosen, level == null ? chosen.usualLevel() : chosen.requireLevel(level), splitBytes == null ? OptionalLong.empty() : OptionalLong.of(splitBytes),
            allBlocks ? SurveyChoice.ALL_BLOCKS : new SurveyChoice(false, keepSwap));
    }
}
