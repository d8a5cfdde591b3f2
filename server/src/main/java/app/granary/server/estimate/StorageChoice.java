package app.granary.server.estimate;

import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.plan.Plan;
import app.granary.core.plan.Storing;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.Storage;
import java.io.IOException;
import java.util.Collection;
import java.util.OptionalLong;
import java.util.Set;

/** How an image is to be stored, as it comes over the wire: words and nullable numbers. */
public final class StorageChoice {
    private StorageChoice() {
    }

    /** As a plan has it; its passphrase is nobody's here. */
    public static Storage of(Plan plan) throws IOException {
        Storing s = plan.storing();
        return of(s.codec(), s.level(), s.splitBytes().isPresent() ? s.splitBytes().getAsLong() : null, s.allBlocks(), s.keepSwap(),
            plan.source().without()).commented(plan.note());
    }

    /**
     * @param level      null for the codec's usual one
     * @param splitBytes null for a single part
     * @param without    numbers of partitions that are not read
     */
    public static Storage of(String codec, Integer level, Long splitBytes, boolean allBlocks, boolean keepSwap, Collection<Integer> without)
        throws IOException {
        Codec chosen = Codec.parse(codec);
        return new Storage(chosen, level == null ? chosen.usualLevel() : chosen.requireLevel(level),
            splitBytes == null ? OptionalLong.empty() : OptionalLong.of(splitBytes),
            new SurveyChoice(allBlocks, keepSwap || allBlocks, Set.copyOf(without)));
    }
}
