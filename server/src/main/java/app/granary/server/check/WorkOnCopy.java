package app.granary.server.check;

import app.granary.core.claim.DeviceClaim;
import app.granary.server.claim.OfficeClaims;
import app.granary.server.image.ImageRecords;
import app.granary.server.image.Images;
import app.granary.server.queue.Run;
import app.granary.server.queue.Work;
import java.util.ArrayList;
import java.util.List;

/**
 * Work on one copy of an image; two runs of a kind on the same copy are the same.
 *
 * @param <O> its order
 */
public abstract class WorkOnCopy<O extends Record> implements Work<O> {
    protected final OfficeClaims claims;
    protected final Images images;
    protected final ImageRecords imageRecords;

    protected WorkOnCopy(OfficeClaims claims, Images images, ImageRecords imageRecords) {
        this.claims = claims;
        this.images = images;
        this.imageRecords = imageRecords;
    }

    @Override
    public String machine(Run run, O order) {
        return claims.machineOfDestination(run.destinationId());
    }

    @Override
    public boolean same(Run asked, Run other) {
        return asked.copyId().equals(other.copyId());
    }

    /** The drive the copy lies on, to read or write it there. */
    protected List<DeviceClaim> itsDrive(Run run) {
        return claims.storing(run.destinationId(), run.destination());
    }

    /** The same, and another drive. */
    protected List<DeviceClaim> bothDrives(Run run, String otherDestinationId) {
        List<DeviceClaim> out = new ArrayList<>(itsDrive(run));
        out.addAll(claims.storing(otherDestinationId, images.destinationNameOrId(otherDestinationId)));
        return out;
    }
}
