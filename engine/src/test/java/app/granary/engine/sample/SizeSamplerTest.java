package app.granary.engine.sample;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.estimate.SizeEstimate;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.codec.Chunks;
import app.granary.engine.codec.Codec;
import app.granary.engine.codec.FrameCoder;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SizeSamplerTest {
    @TempDir
    Path folder;

    /** A disk of 240 MiB of mixed content, and sixty draws: the actual lies inside at least 85 times in 100. */
    @Test
    void theActualLiesInsideNineTimesInTen() throws IOException {
        Random random = new Random(12);
        Path disk = folder.resolve("disk.img");
        long actual = 0;
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
        int inside = 0;
        try (RawSource source = RawSource.open(disk)) {
            DiskSurvey survey = DiskSurvey.of(source, SurveyChoice.ALL_BLOCKS);
            for (int seed = 0; seed < 60; seed++) {
                SizeEstimate estimate = SizeSampler.estimate(source, survey, Codec.ZSTD, 1, seed, Watch.NONE);
                assertEquals(SizeEstimate.Basis.SAMPLE, estimate.basis());
                assertTrue(estimate.sampledBytes() < survey.usedBytes() / 2);
                inside += estimate.lowBytes() <= actual && actual <= estimate.highBytes() ? 1 : 0;
                if (seed == 0) {
                    assertEquals(estimate, SizeSampler.estimate(source, survey, Codec.ZSTD, 1, seed, Watch.NONE), "the same seed draws the same chunks");
                }
            }
        }
        assertTrue(inside >= 51, inside + " of 60");
    }
}
