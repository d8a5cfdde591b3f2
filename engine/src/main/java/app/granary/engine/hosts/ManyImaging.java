package app.granary.engine.hosts;

import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.copy.Repair;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Imaging;
import app.granary.engine.host.Storage;
import app.granary.engine.hosts.Reach.Lending;
import app.granary.engine.hosts.Whereabouts.Holder;
import app.granary.engine.progress.Watch;
import java.io.IOException;

/**
 * The work runs where the disk is, or, when no disk is read, where the bytes are. Only the office's own machine lends its drives; what
 * would need two computers that joined is refused with what to do instead.
 */
final class ManyImaging implements Imaging {
    private final Whereabouts whereabouts;
    private final Reach reach;

    ManyImaging(Whereabouts whereabouts, Reach reach) {
        this.whereabouts = whereabouts;
        this.reach = reach;
    }

    /** @param member that would have to lend a drive */
    private static IOException notLent(Holder member, Holder to) {
        return Whereabouts.apart("That drive is in " + Whereabouts.name(member) + ", which lends no drives to " + Whereabouts.name(to)
            + ". Choose a drive of the machine that has the disk, or one of the office's.");
    }

    @Override
    public HostImage capture(String diskId, String destinationId, String name, Storage storage, Watch watch) throws IOException {
        Holder disk = whereabouts.ofDisk(diskId);
        Holder drive = whereabouts.ofDestination(destinationId);
        if (disk.is(drive)) {
            return disk.host().imaging().capture(diskId, destinationId, name, storage, watch);
        }
        if (!drive.isHome()) {
            throw notLent(drive, disk);
        }
        return here(ImageAt.of(destinationId, name), reach.lend(disk.member().orElseThrow(), ImageAt.of(destinationId, name),
            Lending.TO_WRITE,
            there -> disk.host().imaging().capture(diskId, there.destinationId(), name, storage, watch)));
    }

    private HostImage here(ImageAt image, HostImage made) throws IOException {
        return new HostImage(reach.location(image), made.storedBytes(), made.rawBytes(), made.usedBytes(), made.badSectors(), made.lacks(),
            made.check());
    }

    @Override
    public HostImage carryOn(String diskId, ImageAt unfinished, Watch watch) throws IOException {
        Holder disk = whereabouts.ofDisk(diskId);
        Holder drive = whereabouts.ofDestination(unfinished.destinationId());
        if (disk.is(drive)) {
            return disk.host().imaging().carryOn(diskId, unfinished, watch);
        }
        if (!drive.isHome()) {
            throw notLent(drive, disk);
        }
        return here(unfinished, reach.lend(disk.member().orElseThrow(), unfinished, Lending.TO_WRITE,
            there -> disk.host().imaging().carryOn(diskId, there, watch)));
    }

    @Override
    public CheckOutcome check(ImageAt image, ProofLevel level, Watch watch) throws IOException {
        return whereabouts.ofDestination(image.destinationId()).host().imaging().check(image, level, watch);
    }

    @Override
    public ElsewhereCheck.Result check(String destinationId, ElsewhereImage image, ProofLevel level, Watch watch) throws IOException {
        return whereabouts.ofDestination(destinationId).host().imaging().check(destinationId, image, level, watch);
    }

    @Override
    public CheckOutcome copy(ImageAt image, String toDestinationId, Watch watch) throws IOException {
        Holder from = whereabouts.ofDestination(image.destinationId());
        Holder to = whereabouts.ofDestination(toDestinationId);
        if (from.is(to)) {
            return from.host().imaging().copy(image, toDestinationId, watch);
        }
        if (to.isHome()) {
            return reach.lend(from.member().orElseThrow(), ImageAt.of(toDestinationId, image.name()), Lending.TO_WRITE,
                there -> from.host().imaging().copy(image, there.destinationId(), watch));
        }
        if (from.isHome()) {
            return reach.lend(to.member().orElseThrow(), image, Lending.TO_READ,
                there -> to.host().imaging().copy(there, toDestinationId, watch));
        }
        throw notLent(from, to);
    }

    @Override
    public Repair.Repaired repair(ImageAt damaged, ImageAt sound, ProofLevel level, Watch watch) throws IOException {
        Holder mine = whereabouts.ofDestination(damaged.destinationId());
        Holder other = whereabouts.ofDestination(sound.destinationId());
        if (mine.is(other)) {
            return mine.host().imaging().repair(damaged, sound, level, watch);
        }
        if (mine.isHome()) {
            return reach.lend(other.member().orElseThrow(), damaged, Lending.TO_WRITE,
                there -> other.host().imaging().repair(there, sound, level, watch));
        }
        if (other.isHome()) {
            return reach.lend(mine.member().orElseThrow(), sound, Lending.TO_READ,
                there -> mine.host().imaging().repair(damaged, there, level, watch));
        }
        throw notLent(other, mine);
    }

    @Override
    public Rehearsed rehearse(ImageAt image, Watch watch) throws IOException {
        return whereabouts.ofDestination(image.destinationId()).host().imaging().rehearse(image, watch);
    }
}
