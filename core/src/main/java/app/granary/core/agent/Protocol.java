package app.granary.core.agent;

/** What agent and office say to each other: the version of it, its bounds, and the words for its messages. */
public final class Protocol {
    /** Raised whenever one side could misunderstand the other. */
    public static final int VERSION = 3;
    /** Longest message either side takes, in characters: a disk in a million pieces is told in half of it. */
    public static final int MOST_CHARACTERS = 16 << 20;
    /** An agent says at least so often that it is here, in milliseconds. */
    public static final long BEAT_MILLIS = 10_000;
    /** Either side takes a line for broken on which nothing was heard for so long, in milliseconds. */
    public static final long SILENT_MILLIS = 30_000;
    /** What is typed at a computer's console confirms its disk for so long, in minutes. */
    public static final int TYPED_GOOD_MINUTES = 15;

    private Protocol() {
    }

    /** @param other the version the other side speaks */
    public static String otherVersion(int other) {
        return "The agent speaks version " + other + " of the agents' protocol, and this office version " + VERSION
            + ". Take the agent this "
            + (other < VERSION ? "office offers, which is newer." : "office offers, or a newer office.");
    }
}
