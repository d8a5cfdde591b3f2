package app.granary.server.image;

import app.granary.core.proof.ProofLevel;
import java.time.Instant;
import java.util.UUID;

/** A check without what it found: enough to tell how far a copy is proven. */
record CheckOfCopy(UUID copyId, ProofLevel level, boolean ok, Instant checkedAt, String checkedBy, double seconds) {
}
