package app.granary.server.restore;

import app.granary.core.disk.DiskIdentity;
import app.granary.server.target.TargetGuard;
import java.util.Comparator;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Spares, and restored disks nobody has signed yet: what was written last onto a disk, and is still on the list. */
@Component
class WrittenDisks implements TargetGuard {
    private final RestorationRepository repository;

    WrittenDisks(RestorationRepository repository) {
        this.repository = repository;
    }

    @Override
    public Optional<String> keptAs(DiskIdentity disk, Optional<UUID> replaced) {
        return repository
            .findByTargetSerialAndTargetBytesAndStateAndRetiredAtIsNull(disk.serial(), disk.sizeBytes(), Restoration.State.DONE).stream()
            .max(Comparator.comparing(Restoration::askedAt))
            .filter(each -> !replaced.equals(Optional.of(each.id()))).flatMap(WrittenDisks::kept);
    }

    private static Optional<String> kept(Restoration written) {
        boolean spare = written.kind() == Restoration.Kind.SPARE;
        if (written.signedAt() != null && !spare) {
            return Optional.empty(); // it is its computer's own disk now, and answers for itself
        }
        return Optional.of(spare ? "the spare of " + written.forComputer() + " made of " + written.imageName()
            : "restored for " + written.forComputer() + " from " + written.imageName() + ", and nobody has signed it yet");
    }
}
