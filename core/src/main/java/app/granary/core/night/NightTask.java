package app.granary.core.night;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * One image to be made tonight.
 *
 * @param id          the plan's identity
 * @param name        the computer and disk, as sentences say it
 * @param computer    its computer; two disks of one computer never run at once, and one boot serves both
 * @param overdue     how long past its due date; zero when it is due tonight
 * @param windows     when it may run, in order and apart; the whole of it must lie in one
 * @param needsPerson whether its computer is booted from rescue media first
 * @param ways        the drives it may go to, best first; empty when none of its plan's is fit, see {@code unfit}
 * @param otherWays   drives attached tonight that are fit though its plan does not name them
 * @param awayWays    drives its plan names that would be fit if they were attached
 * @param unfit       why it has no way at all; empty when it has one
 * @param pin         what a person fixed
 */
public record NightTask(String id, String name, String computer, Duration overdue, List<Span> windows, boolean needsPerson, List<Way> ways,
    List<Way> otherWays, List<Way> awayWays,
    String unfit, Pin pin) {
    public NightTask {
        windows = List.copyOf(windows);
        ways = List.copyOf(ways);
        otherWays = List.copyOf(otherWays);
        awayWays = List.copyOf(awayWays);
    }

    /** What a person fixed of a task: when it starts, on which drive; empty where Granary may choose. */
    public record Pin(Optional<Instant> start, Optional<String> driveId) {
        public static final Pin NONE = new Pin(Optional.empty(), Optional.empty());
    }

    NightTask with(List<Way> newWays, List<Span> newWindows) {
        return new NightTask(id, name, computer, overdue, newWindows, needsPerson, newWays, otherWays, awayWays, unfit, pin);
    }
}
