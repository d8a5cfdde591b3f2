package app.granary.server.estimate;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.estimate.Assumption;
import app.granary.core.estimate.ImageHistory;
import app.granary.core.estimate.RunCorrection;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.estimate.Stratum;
import app.granary.core.estimate.TimeEstimate;
import app.granary.server.working.Working;
import java.util.List;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;

class WorkingsTest {
    private static final SizeEstimate.Overhead OVERHEAD = new SizeEstimate.Overhead(100, 0, 0);

    @Test
    void strataOfOnePartitionAreToldTogetherAndAddUp() {
        SizeEstimate size = SizeEstimate.of(List.of(new Stratum("partition 1 (\"main\"), full chunks", 10, List.of(1L << 19, 1L << 19)),
            new Stratum("partition 1 (\"main\"), mostly free chunks", 10, List.of(0L, 0L)),
            new Stratum("outside partitions, full chunks", 1, List.of(1L << 20))), 21 << 20, 5 << 20, OVERHEAD);
        Working working = Workings.size(size, "zstd", OptionalLong.of(4_000));
        assertEquals(
            List.of("To be read", "partition 1 (\"main\"), × 0.25", "outside partitions, × 1.00", "Empty chunks, index, manifests",
                "Likely", "Standard error", "Low", "High", "In parts of 4.00 kB", "On DVD+R, if need be",
                "On DVD-R, if need be", "On BD-R, if need be"),
            working.lines().stream().map(Working.Line::label).toList());
        assertEquals(10L << 19, working.lines().get(1).bytes());
        assertEquals(size.likelyBytes(), working.lines().get(1).bytes() + working.lines().get(2).bytes() + working.lines().get(3).bytes(),
            "the lines add up to the figure");
        assertTrue(working.lines().stream().filter(line -> line.label().startsWith("In parts"))
            .allMatch(line -> line.text().matches("\\d{4,} at most, too many")), working.lines()::toString);
        assertTrue(working.sentences().get(0).startsWith("5 of 21 chunks of 1 MiB, drawn by chance"), working.sentences().get(0));
    }

    @Test
    void whatIsExactClaimsNoError() {
        Working working = Workings.size(SizeEstimate.exact(5, 10, OVERHEAD), "none", OptionalLong.empty());
        assertTrue(working.lines().stream().noneMatch(line -> line.label().equals("Standard error")));
        assertTrue(working.sentences().get(0).contains("the size is known"));
    }

    @Test
    void whatRunsTeachIsShownAsAStepOfTheTime() {
        TimeEstimate plain = TimeEstimate.of(SizeEstimate.exact(1000, 1000, OVERHEAD), 10, 10, 10);
        assertTrue(Workings.time(plain, RunCorrection.NONE, false).lines().stream().noneMatch(line -> line.label().contains("teach")));
        RunCorrection correction = RunCorrection.of(List.of(1.2, 1.4));
        Working working = Workings.time(plain.corrected(correction), correction, true);
        assertTrue(working.lines().contains(Working.Line.text("As 2 runs teach", "× 1.30")), working.lines()::toString);
        assertTrue(
            working.sentences()
                .contains("Runs there took, newest first, 1.20, 1.40 of the time their rates gave; their median corrects this one."),
            working.sentences()::toString);
    }

    @Test
    void withoutTheDiskItIsSaidWhatTheFigureRestsOn() {
        List<ImageHistory.Past> past = List.of(new ImageHistory.Past(3, 100, 60));
        Working history = Workings.learnt(ImageHistory.estimate(past, 1000).orElseThrow(), past, false);
        assertTrue(history.lines().contains(Working.Line.text("An image 3 days old", "× 0.60")), history.lines()::toString);
        assertTrue(history.sentences().get(0).contains("The ratio of its newest image"));
        Working assumed = Workings.learnt(Assumption.of("zstd").estimate(1000, 5000, true), List.of(), true);
        assertTrue(assumed.sentences().get(0).startsWith("Assumed: ") && assumed.sentences().get(0).contains("ciphertext does not shrink"),
            assumed.sentences()::toString);
    }
}
