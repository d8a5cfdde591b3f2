package app.granary.core.restore;

/** Minutes a person takes for what no machine does in a restore (common practice, no source). */
public final class Hands {
    public static final int PUT_ASIDE = 5;
    public static final int CHOOSE = 5;
    public static final int START = 10;
    public static final int NEWER_FILES = 5;
    public static final int ENCRYPT_AGAIN = 10;
    private static final int NEAR_LOW = 5;
    private static final int NEAR_HIGH = 10;
    private static final int TRAVEL_LOW = 60;
    private static final int TRAVEL_HIGH = 120;

    private Hands() {
    }

    /** Minutes, at best and at worst. */
    public record Minutes(long low, long high) {
        public static final Minutes NONE = new Minutes(0, 0);

        /** Of two that are fetched on one way. */
        public Minutes atLeast(Minutes other) {
            return new Minutes(Math.max(low, other.low), Math.max(high, other.high));
        }
    }

    /** To fetch a drive. */
    public static Minutes fetch(boolean attached, boolean offSite) {
        return attached ? Minutes.NONE : offSite ? new Minutes(TRAVEL_LOW, TRAVEL_HIGH) : new Minutes(NEAR_LOW, NEAR_HIGH);
    }

    /**
     * All but fetching: the disk put aside, the computer started from a stick, the image chosen, the computer started, encryption switched
     * on again where it was on, newer files brought back.
     */
    public static int once(int bootMinutes, boolean wasEncrypted) {
        return PUT_ASIDE + bootMinutes + CHOOSE + START + (wasEncrypted ? ENCRYPT_AGAIN : 0) + NEWER_FILES;
    }
}
