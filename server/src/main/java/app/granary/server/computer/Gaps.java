package app.granary.server.computer;

import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.host.Devices;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/**
 * What of a disk at hand belongs to no partition. It is read of the disk, so it is kept for a moment, and one disk is read after the other:
 * whoever looks at a page again and again, in as many windows as one likes, does not keep a disk from its work.
 */
@Component
class Gaps {
    static final Duration STANDS = Duration.ofSeconds(30);

    private final Devices devices;
    private final Clock clock;
    private final Map<String, Known> known = new ConcurrentHashMap<>();

    Gaps(Devices devices, Clock clock) {
        this.devices = devices;
        this.clock = clock;
    }

    private record Known(Instant at, List<Wire.GapLine> gaps) {
        boolean stands(Instant now) {
            return at.plus(STANDS).isAfter(now);
        }
    }

    /** Empty where the disk cannot be read: its own line says why. */
    List<Wire.GapLine> of(String diskId) {
        Known before = known.get(diskId);
        return before != null && before.stands(clock.instant()) ? before.gaps : read(diskId);
    }

    private synchronized List<Wire.GapLine> read(String diskId) {
        Instant now = clock.instant();
        known.values().removeIf(each -> !each.stands(now));
        return known.computeIfAbsent(diskId, id -> new Known(now, survey(id))).gaps;
    }

    private List<Wire.GapLine> survey(String diskId) {
        try {
            DiskSurvey survey = devices.survey(diskId, SurveyChoice.USED);
            return survey.gaps().stream().map(gap -> new Wire.GapLine(gap.startBytes(), gap.sizeBytes(), gap.holds())).toList();
        } catch (IOException refused) {
            return List.of();
        }
    }
}
