package app.granary.server.check;

import app.granary.core.proof.ProofLevel;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.queue.Run;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** Takes orders for checks. */
@Service
public class Checks {
    private final CopyRuns runs;

    public Checks(CopyRuns runs) {
        this.runs = runs;
    }

    /** @param low whether it gives way to other work */
    public Run begin(UUID copyId, ProofLevel level, Passphrase passphrase, boolean low, String who) {
        return runs.begin(Run.Kind.CHECK, copyId, level, new CheckOrder(level), passphrase, low, who,
            "Check of %s on %s, up to " + level.word() + ", asked for.");
    }

    /** What is asked of a check, for one of the past. */
    public static Record order(ProofLevel level) {
        return new CheckOrder(level);
    }
}
