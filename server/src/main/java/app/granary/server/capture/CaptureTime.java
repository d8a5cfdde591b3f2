package app.granary.server.capture;

import app.granary.core.destination.Destination;
import app.granary.core.estimate.RunComparison;
import app.granary.core.estimate.TimeEstimate;
import app.granary.server.estimate.Prospect;
import app.granary.server.queue.Took;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import java.util.Optional;
import java.util.UUID;

/** How long a capture was estimated to take, stage by stage, and how long it took: what the next estimate learns from. */
@Entity
class CaptureTime {
    @Id
    private UUID runId;
    private String codec;
    private double plainSeconds;
    private String slowest;
    private double estimatedCapturing;
    private double estimatedChecking;
    private double capturingSeconds;
    private double checkingSeconds;

    protected CaptureTime() {
    }

    CaptureTime(UUID runId, Prospect prospect, Destination to) {
        TimeEstimate time = prospect.timeTo(to);
        double back = time.stages().stream().filter(stage -> stage.name().equals("read back")).mapToDouble(TimeEstimate.Stage::seconds)
            .sum();
        double most = time.stages().stream().filter(stage -> stage.name().equals(time.slowest())).mapToDouble(TimeEstimate.Stage::seconds)
            .sum();
        double factor = prospect.correction(to).factor();
        this.runId = runId;
        codec = prospect.storage().codec().word();
        plainSeconds = prospect.plainTimeTo(to).likelySeconds();
        slowest = time.slowest();
        estimatedCapturing = most * factor;
        estimatedChecking = back * factor;
    }

    void took(Took took) {
        capturingSeconds = took.capturingSeconds();
        checkingSeconds = took.checkingSeconds();
    }

    UUID runId() {
        return runId;
    }

    /** By the rates alone, without what earlier captures taught; 0 when there was no estimate. */
    double plainSeconds() {
        return plainSeconds;
    }

    /** Empty until it has ended, and when there was no estimate. */
    Optional<RunComparison> comparison() {
        return estimatedCapturing > 0 && capturingSeconds + checkingSeconds > 0
            ? Optional.of(new RunComparison(estimatedCapturing, estimatedChecking, capturingSeconds, checkingSeconds, slowest))
            : Optional.empty();
    }
}
