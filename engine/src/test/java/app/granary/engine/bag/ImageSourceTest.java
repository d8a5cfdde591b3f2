package app.granary.engine.bag;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Medium;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** An image is read like the disk it was made of. */
class ImageSourceTest {
    @TempDir
    Path folder;

    @Test
    void anyStretchReadsAsOnTheDisk() throws IOException {
        Path disk = Medium.MBR_FAT16.make(folder);
        Path bag = CaptureRoundTripTest.capture(disk, folder, "image", Codec.GZIP, 70_000, true).bag();
        Random random = new Random(6);
        try (RawSource raw = RawSource.open(disk); ImageSource image = new ImageSource(Bag.open(bag), Bag.open(bag).content())) {
            assertEquals(raw.sizeBytes(), image.sizeBytes());
            assertEquals(DiskSurvey.of(raw, SurveyChoice.USED).toRead(), DiskSurvey.of(image, SurveyChoice.USED).toRead());
            for (int i = 0; i < 60; i++) {
                long at = (long) (random.nextDouble() * raw.sizeBytes());
                int length = (int) Math.min(raw.sizeBytes() - at, random.nextInt(3 << 20));
                ByteBuffer expected = ByteBuffer.allocate(length);
                ByteBuffer found = ByteBuffer.allocate(length);
                raw.read(at, expected);
                image.read(at, found);
                assertArrayEquals(expected.array(), found.array(), "at " + at);
            }
            assertThrows(IOException.class, () -> image.read(image.sizeBytes() - 1, ByteBuffer.allocate(2)));
            assertThrows(IOException.class, () -> raw.read(raw.sizeBytes() - 1, ByteBuffer.allocate(2)));
        }
    }
}
