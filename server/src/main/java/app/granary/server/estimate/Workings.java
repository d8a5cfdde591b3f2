package app.granary.server.estimate;

import app.granary.core.destination.DestinationAssessment;
import app.granary.core.destination.RuleOutcome;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.estimate.Stratum;
import app.granary.core.estimate.TimeEstimate;
import app.granary.server.working.Working;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Puts the arithmetic of an estimate into the margin's lines. */
final class Workings {
    private static final double CHUNK = 1 << 20;

    private Workings() {
    }

    static Working size(SizeEstimate e, String codec) {
        List<Working.Line> lines = new ArrayList<>();
        lines.add(Working.Line.size("To be read", e.usedBytes()));
        List<String> sentences = new ArrayList<>();
        switch (e.basis()) {
            case EXACT -> sentences.add("Without compression every byte of the disk is kept, free ones as zeros, so the size is known.");
            case COUNTED -> sentences.add("Every used chunk of 1 MiB was compressed with " + codec + ", so nothing is left to chance.");
            case SAMPLE -> sentences.add(sample(e, codec));
        }
        // strata of one partition are told together; how full their chunks are matters to the arithmetic, not to the reader
        Map<String, double[]> places = new LinkedHashMap<>();
        for (Stratum stratum : e.strata()) {
            double[] sum = places.computeIfAbsent(stratum.name().replaceAll(", [a-z ]*chunks$", ""), name -> new double[2]);
            sum[0] += stratum.chunks() * stratum.mean();
            sum[1] += stratum.chunks();
        }
        places.forEach((name, sum) -> lines.add(Working.Line.size(name + String.format(Locale.ROOT, ", × %.2f", sum[0] / sum[1] / CHUNK), Math.round(sum[0]))));
        lines.add(Working.Line.size("Empty chunks, index, manifests", e.overheadBytes()));
        lines.add(Working.Line.size("Likely", e.likelyBytes()).asResult());
        if (e.basis() == SizeEstimate.Basis.SAMPLE) {
            lines.add(Working.Line.size("Standard error", Math.round(e.standardError())));
            lines.add(Working.Line.size("Low", e.lowBytes()));
            lines.add(Working.Line.size("High", e.highBytes()).asResult());
            sentences.add(String.format(Locale.ROOT, "With %.0f degrees of freedom, nine times in ten the true size lies between low and high.", e.degreesOfFreedom()));
        }
        sentences.add("Would change it: another codec or level; keeping all blocks, free ones too.");
        return new Working("What it weighs", "how the estimate came about", lines, sentences);
    }

    private static String sample(SizeEstimate e, String codec) {
        long drawn = e.strata().stream().mapToLong(s -> s.stored().size()).sum();
        long all = e.strata().stream().mapToLong(Stratum::chunks).sum();
        return drawn + " of " + all + " chunks of 1 MiB, drawn by chance from each kind, compressed with " + codec + " as they will be.";
    }

    static Working destination(DestinationAssessment a) {
        List<Working.Line> lines = new ArrayList<>(List.of(Working.Line.size("Capacity", a.destination().capacityBytes()),
            Working.Line.size("Free now", a.destination().freeBytes()), Working.Line.size("Promised to running captures", a.destination().promisedBytes()),
            Working.Line.size("Kept in reserve, 2 % or 1 GB", a.destination().reserveBytes())));
        lines.add(Working.Line.size(a.roomAfterBytes() < 0 ? "Short by" : "Left after this image", Math.abs(a.roomAfterBytes())).asResult());
        List<String> sentences = new ArrayList<>(a.rules().stream().map(RuleOutcome::sentence).toList());
        if (!a.rankSentence().isEmpty()) {
            sentences.add(a.rankSentence());
        }
        return new Working(a.destination().name(), a.fit() ? "why it fits" : "why it does not fit", lines, sentences);
    }

    static Working time(TimeEstimate t) {
        List<Working.Line> lines = new ArrayList<>();
        for (TimeEstimate.Stage stage : t.stages()) {
            lines.add(Working.Line.text(stage.name(), seconds(stage.seconds())));
        }
        lines.add(Working.Line.text("Slowest, then reading back", seconds(t.lowSeconds()) + " to " + seconds(t.highSeconds())).asResult());
        return new Working("How long", "stage by stage", lines, List.of("Reading, compressing and writing go on at the same time, so the slowest of them, " + t.slowest()
            + ", sets the time; reading back comes after.", "Compression was measured on the sample; the links are taken at their usual rates (common practice)."));
    }

    static String seconds(double seconds) {
        long whole = Math.max(1, Math.round(seconds));
        if (whole < 90) {
            return whole + " s";
        }
        long minutes = Math.round(whole / 60.0);
        return minutes < 90 ? minutes + " min" : minutes / 60 + " h " + String.format(Locale.ROOT, "%02d", minutes % 60);
    }
}
