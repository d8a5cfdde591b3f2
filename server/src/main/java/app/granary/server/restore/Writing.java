package app.granary.server.restore;

import app.granary.core.claim.DeviceClaim;
import app.granary.core.fault.Fault;
import app.granary.core.measure.Sizes;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.restore.RestoreOutcome;
import app.granary.engine.host.Overwriting;
import app.granary.server.claim.OfficeClaims;
import app.granary.server.image.Images;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.Took;
import app.granary.server.queue.Work;
import app.granary.server.target.Targets;
import java.io.IOException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** Writes an image, or a disk, onto another disk, and compares. */
abstract class Writing implements Work<RestoreOrder> {
    private static final int MOST_FILES_TOLD = 50;

    private final Overwriting overwriting;
    private final OfficeClaims claims;
    private final Targets targets;
    private final Images images;
    private final Sources sources;
    private final RestorationRepository repository;
    private final RestorationRecords records;
    private final Clock clock;

    Writing(Overwriting overwriting, OfficeClaims claims, Targets targets, Images images, Sources sources, RestorationRepository repository,
        RestorationRecords records, Clock clock) {
        this.overwriting = overwriting;
        this.claims = claims;
        this.targets = targets;
        this.images = images;
        this.sources = sources;
        this.repository = repository;
        this.records = records;
        this.clock = clock;
    }

    /** Brings a computer back, or sets up one of several alike. */
    @Component
    static class RestoreWork extends Writing {
        RestoreWork(Overwriting overwriting, OfficeClaims claims, Targets targets, Images images, Sources sources,
            RestorationRepository repository, RestorationRecords records,
            Clock clock) {
            super(overwriting, claims, targets, images, sources, repository, records, clock);
        }

        @Override
        public Run.Kind kind() {
            return Run.Kind.RESTORE;
        }
    }

    /** Makes a bootable spare of a disk. */
    @Component
    static class SpareWork extends Writing {
        SpareWork(Overwriting overwriting, OfficeClaims claims, Targets targets, Images images, Sources sources,
            RestorationRepository repository, RestorationRecords records,
            Clock clock) {
            super(overwriting, claims, targets, images, sources, repository, records, clock);
        }

        @Override
        public Run.Kind kind() {
            return Run.Kind.SPARE;
        }
    }

    @Override
    public Class<RestoreOrder> orderType() {
        return RestoreOrder.class;
    }

    @Override
    public String machine(Run run, RestoreOrder order) {
        return claims.machineOfTarget(order.target().targetId());
    }

    @Override
    public boolean staysThere(Run run, RestoreOrder order) {
        return order.servedId() == null && machine(run, order).equals(order.copyId() == null ? claims.machineOfDisk(order.diskId())
            : claims.machineOfDestination(images.shelved(order.copyId()).destinationId()));
    }

    /** The drive the image lies on or the disk that is copied, and the target. */
    @Override
    public List<DeviceClaim> claims(Run run, RestoreOrder order) {
        List<DeviceClaim> out = new ArrayList<>(List.of(claims.overwriting(order.target(), order.targetName())));
        if (order.servedId() != null) {
            return out; // its image is in use already, and holds it
        }
        if (order.copyId() == null) {
            out.addAll(claims.reading(order.diskId(), run.imageName()));
        } else {
            Images.Shelved image = images.shelved(order.copyId());
            out.addAll(claims.storing(image.destinationId(), image.destination()));
        }
        return out;
    }

    @Override
    public String perform(LiveRun running, RestoreOrder order, Passphrase passphrase) throws IOException {
        Sources.Source source = sources.of(order.servedId(), order.copyId(), order.diskId(), order.choice().allSectors(), passphrase);
        if (!running.again()) {
            targets.requireStillFree(order.target(), source.serials(), order.choice().replaced());
        }
        order.choice().replaced().ifPresent(spare -> records.replace(spare, order.restorationId()));
        RestoreOutcome outcome = overwriting.write(source.from(), order.target(), order.firmware(), order.choice().layout(),
            order.choice().how(order.again()), running);
        if (!outcome.differences().isEmpty()) {
            throw Fault.of(Fault.Kind.DAMAGED, order.targetName(), outcome.differences().get(0).message()).asException();
        }
        String flaw = unread(order, outcome);
        return running.run().imageName() + " was written onto " + order.targetName() + " (serial " + order.target().identity().serial()
            + "): " + Sizes.decimal(outcome.writtenBytes()) + (order.choice().refreshes() == null ? " written, read back and equal."
                : " differed and was written; now it is equal.")
            + (outcome.passedOver().isEmpty() ? ""
                : " " + outcome.passedOver().size() + " damaged parts are zeros: " + outcome.passedOver().get(0).message())
            + outcome.lengths().stream().map(" "::concat).collect(java.util.stream.Collectors.joining())
            + (flaw.isEmpty() ? "" : " But " + flaw + ".") + " Go through the checks, and sign.";
    }

    /**
     * What a failing disk did not give is zeros on its spare, which a comparison with the same disk cannot tell from the truth: it is kept
     * with the spare for ever.
     */
    private String unread(RestoreOrder order, RestoreOutcome outcome) {
        Restoration asked = repository.findById(order.restorationId()).orElseThrow();
        if (!outcome.unread().isEmpty()) {
            List<String> files = outcome.lost().stream()
                .flatMap(each -> each.hit().paths().stream().map(path -> path + " in " + each.partition())).limit(MOST_FILES_TOLD).toList();
            long count = outcome.lost().stream().mapToLong(each -> each.hit().count()).sum();
            int places = outcome.unread().size();
            asked.flawed(Sizes.decimal(outcome.unreadBytes()) + " of the disk could not be read, in " + places
                + (places == 1 ? " place" : " places") + ", and "
                + (places == 1 ? "is" : "are") + (order.choice().refreshes() == null ? " zeros on it" : " on it as the spare had them"),
                    new LostNames(files, count));
            repository.save(asked);
        }
        return asked.flaw();
    }

    @Override
    public void ended(Run run, Took took) {
        repository.findByRunId(run.id()).ifPresent(asked -> {
            asked.end(run.state() == Run.State.DONE, run.outcome(), clock.instant());
            repository.save(asked);
        });
    }
}
