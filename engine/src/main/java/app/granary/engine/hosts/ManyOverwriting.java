package app.granary.engine.hosts;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.PartitionTable;
import app.granary.core.fault.Fault;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.target.Preparation;
import app.granary.core.target.TargetDisk;
import app.granary.core.target.TargetLook;
import app.granary.engine.copy.StickImage;
import app.granary.engine.host.Overwriting;
import app.granary.engine.host.Lender.Use;
import app.granary.engine.hosts.Whereabouts.Holder;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.RestoreOutcome;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Random;

/** A target is written by the machine it is in, and by no other. */
final class ManyOverwriting implements Overwriting {
    private final Whereabouts whereabouts;
    private final Reach reach;

    ManyOverwriting(Whereabouts whereabouts, Reach reach) {
        this.whereabouts = whereabouts;
        this.reach = reach;
    }

    /** What the machine of the target does with an image or a disk as it knows it. */
    private interface Work<T> {
        T with(From from) throws IOException;
    }

    private <T> T from(From from, Holder target, Watch watch, Work<T> work) throws IOException {
        Holder source = from instanceof From.Image image ? whereabouts.ofDestination(image.at().destinationId())
            : from instanceof From.Disk disk ? whereabouts.ofDisk(disk.diskId())
            : from instanceof From.Elsewhere other ? whereabouts.ofDestination(other.destinationId()) : whereabouts.own();
        if (source.is(target)) {
            return work.with(from);
        }
        if (!(from instanceof From.Image image)) {
            throw Whereabouts.apart((from instanceof From.Elsewhere ? "The image was made with other tools and is in "
                : "The disk is in ") + Whereabouts.name(source) + " and the target in " + Whereabouts.name(target)
                + ". Such is copied within one machine: put the target into " + Whereabouts.name(source)
                + ", or make an image and restore that.");
        }
        return reach.at(target, source, image.at(), Use.TO_READ, watch, (there, location) -> work.with(new From.Image(there)));
    }

    @Override
    public List<TargetDisk> targets() throws IOException {
        List<TargetDisk> out = new ArrayList<>();
        for (Holder each : whereabouts.all()) {
            each.host().overwriting().targets().forEach(target -> out.add(target.in(each.place())));
        }
        out.sort(Comparator.comparing(TargetDisk::name));
        return out;
    }

    @Override
    public TargetLook target(String id) throws IOException {
        return whereabouts.ofTarget(id).host().overwriting().target(id);
    }

    @Override
    public RestoreLayout layout(From from, String targetId, Firmware firmware, LayoutChoice choice) throws IOException {
        Holder target = whereabouts.ofTarget(targetId);
        return from(from, target, Watch.NONE, known -> target.host().overwriting().layout(known, targetId, firmware, choice));
    }

    @Override
    public ScratchRoom scratch(String targetId, long neededBytes) throws IOException {
        return whereabouts.ofTarget(targetId).host().overwriting().scratch(targetId, neededBytes);
    }

    @Override
    public RestoreOutcome write(From from, Confirmed confirmed, Firmware firmware, LayoutChoice choice, How how,
        Watch watch) throws IOException {
        Holder target = whereabouts.ofTarget(confirmed.targetId());
        return from(from, target, watch, known -> target.host().overwriting().write(known, confirmed, firmware, choice, how, watch));
    }

    @Override
    public List<RawFile> rawFiles() throws IOException {
        return whereabouts.own().host().overwriting().rawFiles();
    }

    @Override
    public RestoreOutcome writeRaw(String rawFileId, Confirmed confirmed, Watch watch) throws IOException {
        Holder target = whereabouts.ofTarget(confirmed.targetId());
        return reach.raw(target, rawFileId, watch, id -> target.host().overwriting().writeRaw(id, confirmed, watch));
    }

    @Override
    public StickImage keepRaw(String targetId, DiskIdentity stick, String name, Watch watch) throws IOException {
        Holder holder = whereabouts.ofTarget(targetId);
        if (!holder.equals(whereabouts.own())) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, targetId, "A stick's image is kept beside Granary's own data. Plug the stick into the "
                + "computer Granary runs on.").asException();
        }
        return holder.host().overwriting().keepRaw(targetId, stick, name, watch);
    }

    @Override
    public String digestRaw(String rawFileId, Watch watch) throws IOException {
        return whereabouts.own().host().overwriting().digestRaw(rawFileId, watch);
    }

    @Override
    public PartitionTable prepare(Preparation how, Confirmed confirmed, Random ids, Watch watch) throws IOException {
        return whereabouts.ofTarget(confirmed.targetId()).host().overwriting().prepare(how, confirmed, ids, watch);
    }
}
