package app.granary.core.night;

import java.util.Locale;

/**
 * One change that would make a task fit, everything else as it stands.
 *
 * @param kind     what is changed
 * @param target   the drive or task it concerns; empty where it concerns none
 * @param sentence what to do, and from when to when it would run then
 */
public record Help(Kind kind, String target, String sentence) {
    /** What can be changed, in the order in which it is tried: what costs least first. */
    public enum Kind {
        OTHER_DRIVE, ATTACH_DRIVE, LONGER_WINDOW, STAY_LONGER, LEAVE_OUT;

        public String word() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }
}
