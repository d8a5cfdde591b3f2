package app.granary.engine.hosts;

import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.copy.Repair;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Imaging;
import app.granary.engine.host.Lender.Use;
import app.granary.engine.host.Storage;
import app.granary.engine.hosts.Whereabouts.Holder;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.util.List;

/** The work runs where the disk is, or, when no disk is read, where the bytes are; a drive of another machine is lent to it. */
final class ManyImaging implements Imaging {
    private final Whereabouts whereabouts;
    private final Reach reach;

    ManyImaging(Whereabouts whereabouts, Reach reach) {
        this.whereabouts = whereabouts;
        this.reach = reach;
    }

    @Override
    public HostImage capture(String diskId, String destinationId, String name, Storage storage, Watch watch) throws IOException {
        Holder disk = whereabouts.ofDisk(diskId);
        return reach.at(disk, whereabouts.ofDestination(destinationId), ImageAt.of(destinationId, name), Use.TO_WRITE, watch,
            (there, location) -> located(disk.host().imaging().capture(diskId, there.destinationId(), name, storage, watch), location));
    }

    /** Where it lies is known by who lent the drive. */
    private static HostImage located(HostImage made, String location) {
        return location.isEmpty() ? made
            : new HostImage(location, made.storedBytes(), made.rawBytes(), made.usedBytes(), made.badSectors(), made.lacks(), made.check());
    }

    @Override
    public HostImage carryOn(String diskId, ImageAt unfinished, Watch watch) throws IOException {
        Holder disk = whereabouts.ofDisk(diskId);
        return reach.at(disk, whereabouts.ofDestination(unfinished.destinationId()), unfinished, Use.TO_WRITE, watch,
            (there, location) -> located(disk.host().imaging().carryOn(diskId, there, watch), location));
    }

    @Override
    public CheckOutcome check(ImageAt image, ProofLevel level, Watch watch) throws IOException {
        return whereabouts.ofDestination(image.destinationId()).host().imaging().check(image, level, watch);
    }

    @Override
    public ElsewhereCheck.Result check(String destinationId, ElsewhereImage image, ProofLevel level, Watch watch) throws IOException {
        return whereabouts.ofDestination(destinationId).host().imaging().check(destinationId, image, level, watch);
    }

    /** The office's own machine is read from and written to by others, so that the bytes cross the network once. */
    @Override
    public CheckOutcome copy(ImageAt image, String toDestinationId, Watch watch) throws IOException {
        Holder from = whereabouts.ofDestination(image.destinationId());
        Holder to = whereabouts.ofDestination(toDestinationId);
        if (from.isHome()) {
            return reach.at(to, from, image, Use.TO_READ, watch,
                (there, location) -> to.host().imaging().copy(there, toDestinationId, watch));
        }
        return reach.at(from, to, ImageAt.of(toDestinationId, image.name()), Use.TO_WRITE, watch,
            (there, location) -> from.host().imaging().copy(image, there.destinationId(), watch));
    }

    @Override
    public Repair.Repaired repair(ImageAt damaged, ImageAt sound, ProofLevel level, Watch watch) throws IOException {
        Holder mine = whereabouts.ofDestination(damaged.destinationId());
        Holder other = whereabouts.ofDestination(sound.destinationId());
        if (mine.isHome()) {
            return reach.at(other, mine, damaged, Use.TO_WRITE, watch,
                (there, location) -> other.host().imaging().repair(there, sound, level, watch));
        }
        return reach.at(mine, other, sound, Use.TO_READ, watch,
            (there, location) -> mine.host().imaging().repair(damaged, there, level, watch));
    }

    @Override
    public List<String> discs(ImageAt image, long discBytes, boolean iso, Watch watch) throws IOException {
        return whereabouts.ofDestination(image.destinationId()).host().imaging().discs(image, discBytes, iso, watch);
    }

    @Override
    public Started start(ImageAt image) throws IOException {
        return whereabouts.ofDestination(image.destinationId()).host().imaging().start(image);
    }
}
