package app.granary.core.estimate;

import app.granary.core.measure.Durations;
import java.util.Locale;

/**
 * A finished capture against what was thought of it, by its two stages.
 *
 * @param thoughtCapturing seconds thought for reading, compressing and writing, which go on at once
 * @param thoughtChecking  seconds thought for reading back
 * @param capturing        seconds it took
 * @param checking         seconds that took
 * @param slowest          the step that was thought to set the pace: {@code "read"}, {@code "compress"} or {@code "write"}
 */
public record RunComparison(double thoughtCapturing, double thoughtChecking, double capturing, double checking, String slowest) {
    /** Below a sixth off, and below this many seconds, nobody would call it different. */
    private static final double SAME = 0.17;
    private static final double TOO_SHORT = 2;

    /** Which stage made the difference, in a sentence. */
    public String sentence() {
        double thought = thoughtCapturing + thoughtChecking;
        double took = capturing + checking;
        if (thought <= 0 || alike(thought, took)) {
            return "It took about as long as estimated.";
        }
        boolean longer = took > thought;
        double byCapturing = Math.abs(capturing - thoughtCapturing);
        double byChecking = Math.abs(checking - thoughtChecking);
        boolean capturingMade = byCapturing >= byChecking;
        String stage = capturingMade ? "reading, compressing and writing" : "reading back";
        String own = capturingMade ? words(thoughtCapturing, capturing) : words(thoughtChecking, checking);
        String pace = capturingMade ? " The " + slowest + " step was expected to set the pace." : "";
        return "It took " + Durations.length(Math.round(Math.abs(took - thought))) + (longer ? " longer" : " less") + " than estimated: "
            + stage + " took " + own + "." + pace;
    }

    private static boolean alike(double thought, double took) {
        return Math.abs(took - thought) < Math.max(TOO_SHORT, thought * SAME);
    }

    private static String words(double thought, double took) {
        return Durations.length(Math.round(took)) + " instead of " + Durations.length(Math.round(thought))
            + String.format(Locale.ROOT, " (%.1f times)", took / Math.max(0.1, thought));
    }
}
