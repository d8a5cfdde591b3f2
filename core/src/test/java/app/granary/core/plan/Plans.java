package app.granary.core.plan;

import app.granary.core.retention.Keep;
import app.granary.core.retention.Keeping;
import app.granary.core.disk.DiskIdentity;
import java.time.LocalTime;
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;

/** A plan to start from. */
final class Plans {
    static final PlanSource DISK = PlanSource.of("meridian", "MERIDIAN", "system disk",
        new DiskIdentity("Aldine N1T", "7K-0412-MD", 1_000_204_886_016L), Set.of());
    static final List<PlanDestination> PAIR = List.of(new PlanDestination("peg-1", "PEG-1"), new PlanDestination("peg-2", "PEG-2"));

    private Plans() {
    }

    static Plan of(Rhythm rhythm, String from, String to, boolean booted) {
        return new Plan("MERIDIAN weekly", DISK, new Storing("zstd", 3, OptionalLong.of(4_000_000_000L), false, false, false), PAIR, true,
            rhythm,
            new Window(LocalTime.parse(from), LocalTime.parse(to)), booted, NamingPattern.USUAL, FolderPattern.NONE, 90, Afterwards.OFF,
            List.of("desk@marrowby.example"), Keeping.of(new Keep(0, 7, 4, 12, 0)),
            Checklist.proposed(false, false), "");
    }
}
