package app.granary.server.night;

import app.granary.core.estimate.RunCorrection;
import app.granary.core.estimate.TimeEstimate;
import app.granary.core.measure.Durations;
import app.granary.core.night.Night;
import app.granary.server.working.Working;
import app.granary.core.measure.Moments;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Puts the arithmetic of one row of a night into the margin's lines. */
final class NightWorkings {
    /** Of the window's end a person needs no more precise a figure than this. */
    private static final double SURE = 0.995;

    private NightWorkings() {
    }

    static List<Working.Line> stages(TimeEstimate time, RunCorrection correction) {
        List<Working.Line> out = new ArrayList<>();
        time.stages().forEach(stage -> out.add(Working.Line
            .text(stage.name().substring(0, 1).toUpperCase(Locale.ROOT) + stage.name().substring(1), Durations.length(stage.seconds()))));
        if (!correction.ratios().isEmpty()) {
            out.add(Working.Line.text("Last " + correction.ratios().size() + " runs teach",
                String.format(Locale.ROOT, "× %.2f", correction.factor())));
        }
        out.add(Working.Line.text("Slowest step, then reading back", Durations.range(time.lowSeconds(), time.highSeconds())).asResult());
        return out;
    }

    static String chance(double chance) {
        return chance >= SURE ? "almost certain" : Math.round(chance * 100) + " in 100";
    }

    static Working row(Night.Row row, NightTasks.Reckoned reckoned, ZoneId zone, double pace) {
        List<Working.Line> lines = new ArrayList<>(reckoned.times().get(row.drive().id()).lines());
        row.bootAt().ifPresent(at -> lines.add(Working.Line.text("Booted by a person", time(at, zone))));
        lines.add(Working.Line.text("Starts", time(row.start(), zone)));
        lines.add(Working.Line.text("Ends, likely", time(row.end(), zone)).asResult());
        lines.add(Working.Line.text("Ends, 19 times in 20, by", time(row.latestEnd(), zone)));
        lines.add(Working.Line.text("Its window closes", time(row.windowEnd(), zone)));
        lines.add(Working.Line.text("Slack", Durations.length(Math.max(0, row.slack().toSeconds()))));
        lines.add(Working.Line.text("Chance to end in its window", chance(row.chance())).asResult());
        lines.add(Working.Line.size("Room it may take", row.way().highBytes()));
        List<String> sentences = new ArrayList<>(List.of(row.because(),
            "The chance counts the spread of this image's time and of those it waits for, taken as normally distributed; the 90 % range "
                + "of a time is 3.29 standard deviations wide.",
            "Its size rests on: " + reckoned.basis() + "."));
        if (row.task().overdue().toDays() > 0) {
            sentences.add(1,
                "It is overdue by " + row.task().overdue().toDays() + " days, so it comes before those that are not, where not all fit.");
        }
        if (pace != 1) {
            sentences.add(String.format(Locale.ROOT,
                "The devices here are simulated and work %.0f times as fast as the clock; the night is reckoned by the clock.", pace));
        }
        return new Working(row.task().name() + " ends at " + time(row.end(), zone), "why then, and how sure", lines, sentences);
    }

    private static String time(Instant at, ZoneId zone) {
        return Moments.clock(at, zone);
    }
}
