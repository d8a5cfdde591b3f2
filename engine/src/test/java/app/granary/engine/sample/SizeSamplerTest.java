package app.granary.engine.sample;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.Extents;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.codec.Chunks;
import app.granary.engine.codec.Codec;
import app.granary.engine.codec.FrameCoder;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.OptionalLong;
import java.util.Random;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

@Tag("large")
class SizeSamplerTest {
    @TempDir
    Path folder;

    private Path disk;
    private long actual;

    /** A disk of 240 MiB of mixed content, and what its chunks come to. */
    @BeforeEach
    void mixedContent() throws IOException {
        Random random = new Random(12);
        disk = folder.resolve("disk.img");
        actual = 0;
        try (var out = Files.newOutputStream(disk); FrameCoder coder = Codec.ZSTD.coder(1)) {
            byte[] chunk = new byte[Chunks.BYTES];
            byte[] frame = new byte[Codec.ZSTD.maxFrameBytes(Chunks.BYTES)];
            for (int i = 0; i < 240; i++) {
                random.nextBytes(chunk);
                int repeats = random.nextInt(chunk.length);
                for (int k = 0; k < repeats; k++) {
                    chunk[k] = (byte) (k % 97);
                }
                out.write(chunk);
                actual += coder.encode(chunk, chunk.length, frame);
            }
        }
    }

    private interface Look<T> {
        T at(RawSource source, DiskSurvey survey) throws IOException;
    }

    private <T> T with(Look<T> look) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            return look.at(source, DiskSurvey.of(source, SurveyChoice.ALL_BLOCKS));
        }
    }

    /** Sixty draws: the actual lies inside at least 85 times in 100, also where the sample ends by what it sees. */
    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void theActualLiesInsideNineTimesInTen(boolean adaptive) throws IOException {
        SampleGoal goal = adaptive ? new SampleGoal(List.of(actual * 11 / 10), 0.08, 200L << 20) : SampleGoal.QUICK;
        int inside = 0;
        for (int seed = 0; seed < 60; seed++) {
            int draw = seed;
            SizeEstimate estimate = with(
                (source, survey) -> SizeSampler.sample(source, survey, Codec.ZSTD, 1, draw, goal, Watch.NONE).size());
            assertEquals(SizeEstimate.Basis.SAMPLE, estimate.basis());
            assertTrue(adaptive || estimate.sampledBytes() < 120L << 20);
            inside += estimate.lowBytes() <= actual && actual <= estimate.highBytes() ? 1 : 0;
            if (seed == 0) {
                assertEquals(estimate,
                    with((source, survey) -> SizeSampler.sample(source, survey, Codec.ZSTD, 1, 0, goal, Watch.NONE).size()),
                    "the same seed draws the same chunks");
            }
        }
        assertTrue(inside >= 51, inside + " of 60");
    }

    @Test
    void itGrowsUntilTheDecisionIsClearOrTheBudgetSpent() throws IOException {
        long easy = actual * 2;
        long close = actual + actual / 200;
        SizeEstimate clear = with((source, survey) -> SizeSampler
            .sample(source, survey, Codec.ZSTD, 1, 3, new SampleGoal(List.of(easy), 1, 240L << 20), Watch.NONE).size());
        SizeEstimate hard = with((source, survey) -> SizeSampler
            .sample(source, survey, Codec.ZSTD, 1, 3, new SampleGoal(List.of(close), 1, 240L << 20), Watch.NONE).size());
        SizeEstimate spent = with((source, survey) -> SizeSampler
            .sample(source, survey, Codec.ZSTD, 1, 3, new SampleGoal(List.of(close), 1, 100L << 20), Watch.NONE).size());
        assertEquals(80L << 20, clear.sampledBytes());
        assertTrue(hard.sampledBytes() > spent.sampledBytes() && hard.sampledBytes() > 150L << 20, hard.toString());
        assertTrue(spent.sampledBytes() <= 100L << 20 && spent.sampledBytes() > clear.sampledBytes(), spent.toString());
        assertTrue(hard.highBytes() - hard.lowBytes() < clear.highBytes() - clear.lowBytes());
    }

    @Test
    void whoHasSeenEnoughEndsItWithWhatItHas() throws IOException {
        AtomicLong told = new AtomicLong();
        Watch enough = new Watch() {
            @Override
            public void advanced(Progress progress) {
                told.set(progress.doneBytes());
                assertEquals(Progress.Stage.SAMPLING, progress.stage());
            }

            @Override
            public boolean stopRequested() {
                return true;
            }
        };
        SizeEstimate estimate = with(
            (source, survey) -> SizeSampler.sample(source, survey, Codec.ZSTD, 1, 1, SampleGoal.clearOf(List.of()), enough).size());
        assertEquals(20L << 20, estimate.sampledBytes());
        assertEquals(20L << 20, told.get());
        assertTrue(estimate.lowBytes() < actual && actual < estimate.highBytes());
    }

    @Test
    void aReadTestReadsOnlyWhatItMayAndSaysNothingOfTooLittle() throws IOException {
        assertTrue(with((source, survey) -> ReadTest.rate(source, Extents.range(40L << 20, 200L << 20))).getAsLong() > 1_000_000);
        assertEquals(OptionalLong.empty(), with((source, survey) -> ReadTest.rate(source, Extents.range(0, 15L << 20))));
        assertEquals(OptionalLong.empty(), with((source, survey) -> ReadTest.rate(source, Extents.NONE)));
        assertTrue(with((source, survey) -> ReadTest.rate(source, Extents.range((240L << 20) - (16L << 20), 240L << 20))).isPresent(),
            "up to the last byte");
    }
}
