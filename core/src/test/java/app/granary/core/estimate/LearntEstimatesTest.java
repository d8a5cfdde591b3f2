package app.granary.core.estimate;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What estimates rest on when the disk itself is not sampled: its past, or what is usual. */
class LearntEstimatesTest {
    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "''|1|0",
        "1.2|1.2|1",
        "1.2 1.4|1.3|2",
        "9 1.1 1.2|1.15|2",
        "0.01 1.5|1.5|1",
        "1 2 3 1 1 4.9 4.9|1|5",
    })
    void theMedianOfTheLastFiveThatCanBeBelieved(String ratios, double factor, int count) {
        List<Double> given = ratios.isBlank() ? List.of() : java.util.Arrays.stream(ratios.split(" ")).map(Double::parseDouble).toList();
        RunCorrection correction = RunCorrection.of(given);
        assertEquals(factor, correction.factor(), 1e-12);
        assertEquals(count, correction.ratios().size());
    }

    /**
     * Reported (common practice, no source): thought to be 20 minutes, took 24; thought 30, took 28. Between them the next 20 are thought
     * to be about 21.3.
     */
    @Test
    void reportedTimesCorrectTheNext() {
        RunCorrection correction = RunCorrection.of(List.of(24.0 / 20, 28.0 / 30));
        TimeEstimate plain = TimeEstimate.of(SizeEstimate.exact(1000, 1000, new SizeEstimate.Overhead(0, 0, 0)), 1, 10, 10);
        TimeEstimate corrected = plain.corrected(correction);
        assertEquals(plain.likelySeconds() * (1.2 + 28.0 / 30) / 2, corrected.likelySeconds(), 1e-9);
        assertEquals(plain.slowest(), corrected.slowest());
    }

    @Test
    void earlierImagesGiveARatioWidenedByAgeAndSpread() {
        assertEquals(Optional.empty(), ImageHistory.estimate(List.of(), 100));
        SizeEstimate fresh = ImageHistory.estimate(List.of(new ImageHistory.Past(0, 100_000, 60_000)), 200_000).orElseThrow();
        assertEquals(SizeEstimate.Basis.HISTORY, fresh.basis());
        assertEquals(List.of(115_200L, 120_000L, 124_800L), List.of(fresh.lowBytes(), fresh.likelyBytes(), fresh.highBytes()));
        SizeEstimate old = ImageHistory.estimate(List.of(new ImageHistory.Past(60, 100_000, 60_000)), 200_000).orElseThrow();
        assertEquals(120_000 * 1.12, old.highBytes(), 1, "two months: three times as wide");
        SizeEstimate ancient = ImageHistory.estimate(List.of(new ImageHistory.Past(4000, 100_000, 60_000)), 200_000).orElseThrow();
        assertEquals(120_000 * 1.4, ancient.highBytes(), 1);
        SizeEstimate moving = ImageHistory
            .estimate(List.of(new ImageHistory.Past(1, 100_000, 60_000), new ImageHistory.Past(30, 100_000, 48_000)), 200_000)
            .orElseThrow();
        assertEquals(120_000 * 1.2, moving.highBytes(), 1, "its ratio moved by a fifth before, so it may again");
    }

    /** Property: low is never above likely, likely never above high, and more to read never weighs less. */
    @Test
    void everyRangeIsInOrder() {
        Random random = new Random(8);
        for (int round = 0; round < 500; round++) {
            long used = random.nextInt(1_000_000_000);
            List<SizeEstimate> all = new ArrayList<>();
            for (String codec : List.of("zstd", "gzip", "xz", "none")) {
                all.add(Assumption.of(codec).estimate(used, used + 5, random.nextBoolean()));
            }
            all.add(ImageHistory
                .estimate(List.of(new ImageHistory.Past(random.nextInt(500), 1 + random.nextInt(1000), random.nextInt(1000))), used)
                .orElseThrow());
            for (SizeEstimate each : all) {
                assertTrue(each.lowBytes() <= each.likelyBytes() && each.likelyBytes() <= each.highBytes(), each.toString());
                assertTrue(each.highBytes() >= 0);
            }
        }
        assertTrue(Assumption.of("zstd").estimate(100, 100, true).lowBytes() == 100, "ciphertext does not shrink");
        assertEquals(SizeEstimate.Basis.ASSUMED, Assumption.of("xz").estimate(100, 100, false).basis());
    }

    /**
     * Known outcomes (common practice, no source): a full 1 TB became 814 GB; a small install of 15 260 MiB became 772 MiB with a strong
     * codec, from about 1.4 GiB used. Both lie within what is assumed.
     */
    @Test
    void knownOutcomesLieWithinTheAssumption() {
        SizeEstimate full = Assumption.of("zstd").estimate(1_000_000_000_000L, 1_000_204_886_016L, false);
        assertTrue(full.lowBytes() < 814_000_000_000L && 814_000_000_000L < full.highBytes());
        SizeEstimate small = Assumption.of("xz").estimate(1_500_000_000L, 15_260L << 20, false);
        assertTrue(small.lowBytes() < 772L << 20 && 772L << 20 < small.highBytes());
    }
}
