package app.granary.server.computer;

import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.copy.Repair;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Imaging;
import app.granary.engine.host.Storage;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.util.List;

/** A host's work on images, of disks under the ids of the office's records. */
record NamedImaging(Imaging imaging, DisksAtHand disks) implements Imaging {
    @Override
    public HostImage capture(String diskId, String destinationId, String name, Storage storage, Watch watch) throws IOException {
        return imaging.capture(disks.hostId(diskId), destinationId, name, storage, watch);
    }

    @Override
    public HostImage carryOn(String diskId, ImageAt unfinished, Watch watch) throws IOException {
        return imaging.carryOn(disks.hostId(diskId), unfinished, watch);
    }

    @Override
    public CheckOutcome check(ImageAt image, ProofLevel level, Watch watch) throws IOException {
        return imaging.check(image, level, watch);
    }

    @Override
    public ElsewhereCheck.Result check(String destinationId, ElsewhereImage image, ProofLevel level, Watch watch) throws IOException {
        return imaging.check(destinationId, image, level, watch);
    }

    @Override
    public CheckOutcome copy(ImageAt image, String toDestinationId, Watch watch) throws IOException {
        return imaging.copy(image, toDestinationId, watch);
    }

    @Override
    public Repair.Repaired repair(ImageAt damaged, ImageAt sound, ProofLevel level, Watch watch) throws IOException {
        return imaging.repair(damaged, sound, level, watch);
    }

    @Override
    public List<String> discs(ImageAt image, long discBytes, boolean iso, Watch watch) throws IOException {
        return imaging.discs(image, discBytes, iso, watch);
    }

    @Override
    public Started start(ImageAt image) throws IOException {
        return imaging.start(image);
    }
}
