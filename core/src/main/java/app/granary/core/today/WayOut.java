package app.granary.core.today;

import java.util.Optional;

/**
 * What can be done about a damaged copy.
 *
 * @param soundCopyId the sound copy's identity; an empty string without one
 */
public record WayOut(Kind kind, String soundCopyId, String sentence) {
    public enum Kind {
        /** Another copy of the same image is sound. */
        REPAIR,
        /** No rule keeps it: others stand for it. */
        RELEASE,
        CAPTURE
    }

    /** Another copy of the same image that is sound. */
    public record SoundCopy(String id, String destination) {
    }

    /**
     * The best that can be done: what repairs costs least, what is released is replaced by others.
     *
     * @param kept whether a rule keeps the image; empty when the rules do not know it
     */
    public static WayOut of(String computer, Optional<SoundCopy> sound, Optional<Boolean> kept) {
        if (sound.isPresent()) {
            return new WayOut(Kind.REPAIR, sound.get().id(), "A sound copy lies on " + sound.get().destination() + ".");
        }
        return kept.orElse(true)
            ? new WayOut(Kind.CAPTURE, "", "There is no sound copy. Capture " + computer + " again, and look after its drive.")
            : new WayOut(Kind.RELEASE, "", "Other images of " + computer + " are proven, and no rule keeps this one.");
    }
}
