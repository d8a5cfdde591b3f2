package app.granary.core.retention;

import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * A copy of an image, as far as keeping it goes.
 *
 * @param id      its own
 * @param imageId the same for all copies of one image: they are one moment, and stay or go together
 * @param madeAt  the moment it is of
 * @param state   what its newest checks say
 * @param without what of its disk it does not hold, in words; an empty string for an image of the whole disk
 * @param holds   why it must stay; usually empty
 * @param inUse   what works with it just now, a restore or a rollout, in words; usually empty
 */
public record ShelvedCopy(String id, String imageId, Instant madeAt, State state, String without, List<Hold> holds, List<String> inUse) {
    /** Of the whole disk. */
    public ShelvedCopy(String id, String imageId, Instant madeAt, State state, List<Hold> holds, List<String> inUse) {
        this(id, imageId, madeAt, state, "", holds, inUse);
    }

    public ShelvedCopy {
        holds = List.copyOf(holds);
        inUse = List.copyOf(inUse);
    }

    /** How far it can be relied on. */
    public enum State {
        /** Its bytes were found sound, or more. */
        PROVEN,
        /** Nobody looked yet, or only that its files are there. */
        UNPROVEN,
        /** Its newest check failed. */
        DAMAGED
    }

    /**
     * Why an image must stay whatever the rules say.
     *
     * @param reason in the words of who held it
     * @param until  when that ends; empty when somebody ends it by hand
     */
    public record Hold(String reason, Optional<Instant> until) {
        boolean stands(Instant now) {
            return until.map(now::isBefore).orElse(true);
        }
    }
}
