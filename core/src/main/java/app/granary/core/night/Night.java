package app.granary.core.night;

import app.granary.core.measure.Moments;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * A planned night.
 *
 * @param rows    what runs, by start
 * @param misfits what does not fit, by name
 */
public record Night(List<Row> rows, List<Misfit> misfits) {
    /** More names than this are no sentence. */
    private static final int MOST_NAMED = 2;

    public Night {
        rows = List.copyOf(rows);
        misfits = List.copyOf(misfits);
    }

    /**
     * One image of the night.
     *
     * @param bootAt    when a person boots the computer; empty when nobody needs to, or an earlier row's boot serves
     * @param start     by likely ends of what comes before
     * @param end       the likely one, read back and all
     * @param latestEnd nineteen times in twenty it has ended by then, what comes before included
     * @param windowEnd when it must have ended
     * @param slack     from the likely end to the end of its window
     * @param chance    that it ends within its window, 0 to 1
     * @param because   why it starts then
     */
    public record Row(NightTask task, Way way, NightDrive drive, Optional<Instant> bootAt, Instant start, Instant end, Instant latestEnd,
        Instant windowEnd, Duration slack,
        double chance, String because) {
    }

    /**
     * What does not fit.
     *
     * @param why  in a sentence
     * @param help the one change that would make it fit; empty when no single one would
     */
    public record Misfit(NightTask task, String why, Optional<Help> help) {
    }

    /** The night in one sentence; times by the clock of that zone. */
    public String sentence(ZoneId zone) {
        int all = rows.size() + misfits.size();
        if (all == 0) {
            return "Nothing is due.";
        }
        String fit = misfits.isEmpty() ? (all == 1 ? "The one image fits." : "All " + all + " fit.")
            : rows.isEmpty() ? "None of " + all + (all == 1 ? " fits." : " fit.") : rows.size() + " of " + all + " fit.";
        String ends = lastEnd().map(end -> " The last ends about " + Moments.clock(end, zone) + ", at the latest "
            + Moments.clock(rows.stream().map(Row::latestEnd).max(Comparator.naturalOrder()).orElseThrow(), zone)
            + (misfits.isEmpty() ? "." : ";")).orElse("");
        String names = misfits.size() > MOST_NAMED ? misfits.size() + ""
            : misfits.stream().map(misfit -> misfit.task().name()).collect(Collectors.joining(" and "));
        return fit + ends + (misfits.isEmpty() ? "" : " " + names + (misfits.size() == 1 ? " does not fit." : " do not fit."));
    }

    /** The likely end of the last row; empty when nothing runs. */
    public Optional<Instant> lastEnd() {
        return rows.stream().map(Row::end).max(Comparator.naturalOrder());
    }
}
