package app.granary.core.proof;

import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * How far up the ladder a copy of an image stands, by all the evidence there is of it. A failed check takes it down to nothing until it is
 * proven again.
 *
 * @param level     the highest level that held since the last failure; empty when none did
 * @param damaged   whether the newest check failed
 * @param checkedAt when its bytes were last found sound or better; empty when they were not since the last failure
 * @param staleAt   when that proof goes stale; empty without one
 */
public record Standing(Optional<ProofLevel> level, boolean damaged, Optional<Instant> checkedAt, Optional<Instant> staleAt) {

    /**
     * @param evidence    in any order
     * @param recheckDays days after which a proof is stale, 1 or more
     */
    public static Standing of(List<Evidence> evidence, int recheckDays) {
        List<Evidence> ordered = evidence.stream().sorted(Comparator.comparing(Evidence::at)).toList();
        Optional<ProofLevel> level = Optional.empty();
        Optional<Instant> checked = Optional.empty();
        boolean damaged = false;
        for (Evidence each : ordered) {
            damaged = !each.ok();
            if (damaged) {
                level = Optional.empty();
                checked = Optional.empty();
                continue;
            }
            if (level.isEmpty() || each.level().includes(level.get())) {
                level = Optional.of(each.level());
            }
            // that all files are there says nothing of their bytes, and who booted it looked at a copy of them
            if (each.level().includes(ProofLevel.SOUND) && each.level() != ProofLevel.BOOTED) {
                checked = Optional.of(each.at());
            }
        }
        return new Standing(level, damaged, checked, checked.map(at -> at.plus(Duration.ofDays(recheckDays))));
    }

    /** Whether its bytes were found sound, or more, and not damaged since. */
    public boolean sound() {
        return level.isPresent() && level.get().includes(ProofLevel.SOUND);
    }

    /** Whether it is to be checked again: it never was, or that is too long ago. A damaged one is to be repaired, not checked. */
    public boolean stale(Instant now) {
        return !damaged && (staleAt.isEmpty() || !now.isBefore(staleAt.get()));
    }
}
