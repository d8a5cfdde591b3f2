package app.granary.server.run;

import app.granary.core.proof.ProofLevel;
import app.granary.engine.site.Storage;
import app.granary.server.estimate.StorageChoice;
import java.io.IOException;
import java.util.List;

/**
 * What a run was asked to do, besides which disk and which drive: kept with the run, so that a queue survives a restart. Never holds a passphrase.
 *
 * @param codec      of a capture; empty for other kinds
 * @param splitBytes null for a single part
 * @param carryOn    whether an unfinished capture is carried on
 * @param level      of the codec
 * @param proof      how far a check goes, or the proof after mending; empty for captures
 * @param otherId    the destination a copy goes to, or one that is mended from lies on; empty for other kinds
 * @param naming     the naming pattern of a plan's capture, whose name is made when it starts; empty when it has its name
 * @param afterwards what becomes of the computer when a plan's capture is done; empty for nothing
 */
record RunOrder(String codec, int level, Long splitBytes, boolean allBlocks, boolean keepSwap, List<Integer> without, boolean carryOn, String proof, String otherId, String naming, String afterwards) {

    static RunOrder capture(Storage s, String naming, String afterwards) {
        return new RunOrder(s.codec().word(), s.level(), s.splitBytes().isPresent() ? s.splitBytes().getAsLong() : null, s.choice().allBlocks(), s.choice().keepSwap(),
            s.choice().without().stream().sorted().toList(), false, "", "", naming, afterwards);
    }

    static RunOrder carryingOn() {
        return new RunOrder("", 0, null, false, false, List.of(), true, "", "", "", "");
    }

    static RunOrder proving(ProofLevel level, String otherId) {
        return new RunOrder("", 0, null, false, false, List.of(), false, level.name(), otherId, "", "");
    }

    Storage storage() throws IOException {
        return StorageChoice.of(codec, level, splitBytes, allBlocks, keepSwap, without);
    }

    ProofLevel proofLevel() {
        return ProofLevel.valueOf(proof);
    }
}
