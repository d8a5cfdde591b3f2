package app.granary.server.retention;

import app.granary.core.retention.RetentionDecision;
import app.granary.server.image.Images;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;

/** What can be done about an image whose check found damage. */
@Service
public class DamagedImages {
    private final DryRuns dryRuns;

    DamagedImages(DryRuns dryRuns) {
        this.dryRuns = dryRuns;
    }

    public enum Kind {
        /** A sound copy of it lies on another drive. */
        MEND,
        /** No rule keeps it: others stand for it. */
        RELEASE,
        CAPTURE
    }

    /** @param copy the sound copy's identity; an empty string without one */
    public record Way(Kind kind, String copy, String sentence) {
    }

    /** By image. */
    public Map<UUID, Way> ways(List<Images.Standings> damaged) {
        if (damaged.isEmpty()) {
            return Map.of();
        }
        Map<String, DryRuns.DiskRun> disks = dryRuns.of(damaged.stream().map(Images.Standings::diskId).collect(Collectors.toSet())).stream().collect(Collectors.toMap(DryRuns.DiskRun::diskId, Function.identity()));
        return damaged.stream().collect(Collectors.toMap(Images.Standings::id, image -> way(image, disks.containsKey(image.diskId()) ? disks.get(image.diskId()).images() : List.of())));
    }

    private static Way way(Images.Standings image, List<DryRuns.Decided> ofDisk) {
        Optional<Images.Standings> copy = ofDisk.stream().flatMap(each -> each.copies().stream()).map(DryRuns.CopyOf::copy).filter(other -> other.imageId().equals(image.imageId()) && !other.id().equals(image.id()) && other.standing().sound()).findFirst();
        if (copy.isPresent()) {
            return new Way(Kind.MEND, copy.get().id().toString(), "A sound copy lies on " + copy.get().destination() + ".");
        }
        Optional<RetentionDecision> decision = ofDisk.stream().filter(each -> each.holds(image.id())).map(DryRuns.Decided::decision).findFirst();
        return decision.filter(each -> !each.kept()).map(each -> new Way(Kind.RELEASE, "", "Other images of " + image.computer() + " are proven, and no rule keeps this one."))
            .orElseGet(() -> new Way(Kind.CAPTURE, "", "There is no sound copy. Capture " + image.computer() + " again, and look after its drive."));
    }
}
