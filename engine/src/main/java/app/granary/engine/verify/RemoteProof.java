package app.granary.engine.verify;

import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;

/**
 * Reads images back where they lie, so that no byte crosses a line for it: a file system of another machine that can do so is one of
 * these. What it finds is what its own device gave back.
 */
public interface RemoteProof {
    /** Empty for an image that is read from here. */
    static Optional<RemoteProof> of(Path bag) {
        return bag.getFileSystem() instanceof RemoteProof there ? Optional.of(there) : Optional.empty();
    }

    /** What {@link Verification#run} does, over there. */
    CheckOutcome run(Path bag, Passphrase passphrase, ProofLevel level, Watch watch) throws IOException;

    /** What {@link Verification#readParts} does, over there. */
    PartsRead readParts(Path bag, Passphrase passphrase, ImageJson.Content content, Watch watch) throws IOException;
}
