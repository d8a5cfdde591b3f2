package app.granary.server.retention;

import app.granary.core.today.WayOut;
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

    /** By image. */
    public Map<UUID, WayOut> ways(List<Images.Standings> damaged) {
        if (damaged.isEmpty()) {
            return Map.of();
        }
        Map<String, DryRuns.DiskRun> disks = dryRuns.of(damaged.stream().map(Images.Standings::diskId).collect(Collectors.toSet())).stream()
            .collect(Collectors.toMap(DryRuns.DiskRun::diskId, Function.identity()));
        return damaged.stream().collect(Collectors.toMap(Images.Standings::id,
            image -> way(image, disks.containsKey(image.diskId()) ? disks.get(image.diskId()).images() : List.of())));
    }

    private static WayOut way(Images.Standings image, List<DryRuns.Decided> ofDisk) {
        Optional<WayOut.SoundCopy> sound = ofDisk.stream().flatMap(each -> each.copies().stream()).map(DryRuns.CopyOf::copy)
            .filter(other -> other.imageId().equals(image.imageId()) && !other.id().equals(image.id()) && other.standing().sound())
            .findFirst().map(copy -> new WayOut.SoundCopy(copy.id().toString(), copy.destination()));
        return WayOut.of(image.computer(), sound,
            ofDisk.stream().filter(each -> each.holds(image.id())).findFirst().map(each -> each.decision().kept()));
    }
}
