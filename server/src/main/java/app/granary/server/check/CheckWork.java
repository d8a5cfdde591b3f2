package app.granary.server.check;

import app.granary.core.claim.DeviceClaim;
import app.granary.core.measure.Sizes;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.Imaging;
import app.granary.server.claim.OfficeClaims;
import app.granary.server.image.Elsewhere;
import app.granary.server.image.ImageRecords;
import app.granary.server.image.Images;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.Run;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Holds a copy against its digests, decodes it, or restores it onto scratch, as far as asked. */
@Component
public class CheckWork extends WorkOnCopy<CheckOrder> {
    private final Imaging imaging;
    private final Elsewhere elsewhere;

    public CheckWork(Imaging imaging, OfficeClaims claims, Images images, ImageRecords imageRecords, Elsewhere elsewhere) {
        super(claims, images, imageRecords);
        this.imaging = imaging;
        this.elsewhere = elsewhere;
    }

    @Override
    public Run.Kind kind() {
        return Run.Kind.CHECK;
    }

    @Override
    public Class<CheckOrder> orderType() {
        return CheckOrder.class;
    }

    @Override
    public List<DeviceClaim> claims(Run run, CheckOrder order) {
        List<DeviceClaim> out = new ArrayList<>(itsDrive(run));
        if (order.proof().includes(ProofLevel.REHEARSED)) {
            out.add(claims.scratch());
        }
        return out;
    }

    @Override
    public boolean staysThere(Run run, CheckOrder order) {
        return true;
    }

    /** Digests need none. */
    @Override
    public boolean needsPassphrase(Run run, CheckOrder order) {
        return run.encrypted() && order.proof().includes(ProofLevel.READABLE);
    }

    @Override
    public String perform(LiveRun running, CheckOrder order, Passphrase passphrase) throws IOException {
        Run run = running.run();
        long began = System.nanoTime();
        Optional<ElsewhereImage> other = elsewhere.expected(run.copyId());
        if (other.isPresent()) {
            return checkElsewhere(running, other.get(), order.proof());
        }
        CheckOutcome outcome = imaging.check(images.at(run.copyId(), passphrase), order.proof(), running);
        imageRecords.recordCheck(run.copyId(), outcome, (System.nanoTime() - began) / 1e9, run.begunBy());
        Proven.require(run, outcome);
        return "Image " + run.imageName() + " on " + run.destination() + " is " + Proven.meaning(order.proof()) + ".";
    }

    private String checkElsewhere(LiveRun running, ElsewhereImage image, ProofLevel level) throws IOException {
        Run run = running.run();
        long began = System.nanoTime();
        ElsewhereCheck.Result result = imaging.check(run.destinationId(), image, level, running);
        imageRecords.recordCheck(run.copyId(), result.outcome(), (System.nanoTime() - began) / 1e9, run.begunBy(), result.note());
        elsewhere.learn(run.copyId(), result);
        Proven.require(run, result.outcome());
        String unpacked = result.contentBytes().isPresent() ? " It unpacks to " + Sizes.decimal(result.contentBytes().getAsLong()) + "."
            : "";
        return "Image " + run.imageName() + " on " + run.destination() + " is " + Proven.meaningElsewhere(result.outcome().level(), image)
            + "." + unpacked
            + (result.note().isEmpty() ? "" : " " + result.note());
    }
}
