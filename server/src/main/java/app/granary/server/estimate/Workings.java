package app.granary.server.estimate;

import app.granary.core.destination.DestinationAssessment;
import app.granary.core.destination.RuleOutcome;
import app.granary.core.destination.Disc;
import app.granary.core.destination.Parts;
import app.granary.core.estimate.ImageHistory;
import app.granary.core.estimate.RunCorrection;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.estimate.Stratum;
import app.granary.core.estimate.TimeEstimate;
import app.granary.core.measure.Durations;
import app.granary.core.measure.Sizes;
import app.granary.server.working.Working;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.OptionalLong;
import java.util.stream.Collectors;

/** Puts the arithmetic of an estimate into the margin's lines. */
final class Workings {
    private static final double CHUNK = 1 << 20;

    private Workings() {
    }

    static Working size(SizeEstimate e, String codec, OptionalLong splitBytes) {
        List<Working.Line> lines = new ArrayList<>();
        lines.add(Working.Line.size("To be read", e.usedBytes()));
        List<String> sentences = new ArrayList<>();
        switch (e.basis()) {
            case EXACT -> sentences.add("Without compression every byte of the disk is kept, free ones as zeros, so the size is known.");
            case COUNTED -> sentences.add("Every used chunk of 1 MiB was compressed with " + codec + ", so nothing is left to chance.");
            case SAMPLE -> sentences.add(sample(e, codec));
            case HISTORY, ASSUMED -> throw new IllegalArgumentException("told by learnt(): " + e.basis());
        }
        // strata of one partition are told together; how full their chunks are matters to the arithmetic, not to the reader
        Map<String, double[]> places = new LinkedHashMap<>();
        for (Stratum stratum : e.strata()) {
            double[] sum = places.computeIfAbsent(stratum.name().replaceAll(", [a-z ]*chunks$", ""), name -> new double[2]);
            sum[0] += stratum.chunks() * stratum.mean();
            sum[1] += stratum.chunks();
        }
        places.forEach((name, sum) -> lines
            .add(Working.Line.size(name + String.format(Locale.ROOT, ", × %.2f", sum[0] / sum[1] / CHUNK), Math.round(sum[0]))));
        lines.add(Working.Line.size("Empty chunks, index, manifests", e.overheadBytes()));
        lines.add(Working.Line.size("Likely", e.likelyBytes()).asResult());
        if (e.basis() == SizeEstimate.Basis.SAMPLE) {
            lines.add(Working.Line.size("Standard error", Math.round(e.standardError())));
            lines.add(Working.Line.size("Low", e.lowBytes()));
            lines.add(Working.Line.size("High", e.highBytes()).asResult());
            sentences.add(String.format(Locale.ROOT,
                "With %.0f degrees of freedom, nine times in ten the true size lies between low and high.", e.degreesOfFreedom()));
        }
        splitBytes.ifPresent(bytes -> {
            Parts parts = new Parts(bytes);
            lines.add(Working.Line.text("In parts of " + Sizes.decimal(bytes),
                parts.count(e.highBytes()) + " at most" + (parts.silly(e.highBytes()) ? ", too many" : "")));
        });
        for (Disc disc : Disc.values()) {
            lines.add(Working.Line.text("On " + disc.label() + ", if need be",
                disc.count(e.highBytes()) + (disc.silly(e.highBytes()) ? ", too many" : "")));
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
            Working.Line.size("Free now", a.destination().freeBytes()),
            Working.Line.size("Promised to running captures, and tonight", a.destination().promisedBytes()),
            Working.Line.size("Kept in reserve, 2 % or 1 GB", a.destination().reserveBytes())));
        if (a.destination().ownBytes() > 0) {
            lines.add(2, Working.Line.size("Written by this image's run, there for it", a.destination().ownBytes()));
        }
        lines
            .add(Working.Line.size(a.roomAfterBytes() < 0 ? "Short by" : "Left after this image", Math.abs(a.roomAfterBytes())).asResult());
        List<String> sentences = new ArrayList<>(a.rules().stream().map(RuleOutcome::sentence).toList());
        if (!a.rankSentence().isEmpty()) {
            sentences.add(a.rankSentence());
        }
        return new Working(a.destination().name(), a.fit() ? "why it fits" : "why it does not fit", lines, sentences);
    }

    /** For a disk that is not at hand. */
    static Working learnt(SizeEstimate e, List<ImageHistory.Past> past, boolean dense) {
        List<Working.Line> lines = new ArrayList<>(List.of(Working.Line.size("To be read, as last known", e.usedBytes())));
        for (ImageHistory.Past each : past) {
            lines.add(Working.Line.text(String.format(Locale.ROOT, "An image %.0f days old", each.ageDays()),
                String.format(Locale.ROOT, "× %.2f", (double) each.storedBytes() / each.readBytes())));
        }
        lines.add(Working.Line.size("Low", e.lowBytes()));
        lines.add(Working.Line.size("Likely", e.likelyBytes()).asResult());
        lines.add(Working.Line.size("High", e.highBytes()));
        List<String> sentences = e.basis() == SizeEstimate.Basis.HISTORY
            ? List.of(
                "The disk is not attached here, so nothing of it can be compressed. The ratio of its newest image is applied to what "
                    + "would be read, and widened with that image's age and with how its ratios moved.")
            : List.of(
                "Assumed: the disk is not attached here and has no image yet. "
                    + (dense ? "It is encrypted, and ciphertext does not shrink."
                        : "Systems and documents about halve, media do not shrink; therefore the wide range; a rule of thumb."),
                "Would narrow it: attaching the disk, or one image of it.");
        return new Working("What it would weigh", "without looking at the disk", lines, sentences);
    }

    private static String correction(RunCorrection correction) {
        String ratios = correction.ratios().stream().map(ratio -> String.format(Locale.ROOT, "%.2f", ratio))
            .collect(Collectors.joining(", "));
        return "Runs there took, newest first, " + ratios + " of the time their rates gave; their median corrects this one.";
    }

    static Working time(TimeEstimate t, RunCorrection correction, boolean readTested) {
        List<Working.Line> lines = new ArrayList<>();
        for (TimeEstimate.Stage stage : t.stages()) {
            lines.add(Working.Line.text(stage.name(), Durations.length(stage.seconds())));
        }
        List<String> learnt = new ArrayList<>();
        if (!correction.ratios().isEmpty()) {
            lines.add(
                Working.Line.text("As " + correction.ratios().size() + (correction.ratios().size() == 1 ? " run teaches" : " runs teach"),
                    String.format(Locale.ROOT, "× %.2f", correction.factor())));
            learnt.add(correction(correction));
        }
        lines.add(Working.Line
            .text("Slowest, then reading back", Durations.length(t.lowSeconds()) + " to " + Durations.length(t.highSeconds())).asResult());
        learnt.addAll(0, List.of("Reading, compressing and writing go on at the same time, so the slowest of them, " + t.slowest()
            + ", sets the time; reading back comes after.",
            readTested
                ? "Compression was measured on the sample, reading by a short test on this disk; the way to the destination is taken at "
                    + "its link's usual rate (a rule of thumb)."
                : "Compression was measured on the sample; the links are taken at their usual rates (a rule of thumb)."));
        return new Working("How long", "stage by stage", lines, learnt);
    }
}
