package app.granary.server.restore;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface RestorationRepository extends JpaRepository<Restoration, UUID> {
    List<Restoration> findTop100ByOrderByAskedAtDesc();

    Optional<Restoration> findByRunId(UUID runId);

    List<Restoration> findByRolloutIdOrderByAskedAt(UUID rolloutId);

    List<Restoration> findByTargetSerialAndTargetBytesAndStateAndRetiredAtIsNull(String targetSerial, long targetBytes,
        Restoration.State state);

    List<Restoration> findByKindAndStateAndRetiredAtIsNull(Restoration.Kind kind, Restoration.State state);
}
