package app.granary.core.preflight;

import java.util.OptionalInt;
import java.util.OptionalLong;

/**
 * What the machine that does the work runs on.
 *
 * @param battery     whether it runs on its battery, with no mains
 * @param percent     charge of the battery, 0 to 100; empty where it is not told
 * @param secondsLeft how long the battery lasts at what is drawn now; empty where it is not told
 */
public record Power(boolean battery, OptionalInt percent, OptionalLong secondsLeft) {
    /** Mains, or a machine that does not tell: one without a battery. */
    public static final Power MAINS = new Power(false, OptionalInt.empty(), OptionalLong.empty());
}
