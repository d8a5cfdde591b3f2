package app.granary.engine.codec;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.FaultException;
import app.granary.engine.media.Tools;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

class CodecTest {
    @TempDir
    Path folder;

    private static List<byte[]> contents() {
        Random random = new Random(2);
        byte[] noise = new byte[Chunks.BYTES];
        random.nextBytes(noise);
        byte[] text = "bearing 271 30 distance 44.18 ".repeat(40_000).substring(0, Chunks.BYTES).getBytes(StandardCharsets.US_ASCII);
        return List.of(noise, text, new byte[Chunks.BYTES], Arrays.copyOf(noise, 512), new byte[] {7});
    }

    private static byte[] encode(Codec codec, int level, byte[] content) throws IOException {
        byte[] frame = new byte[codec.maxFrameBytes(content.length)];
        try (FrameCoder coder = codec.coder(level)) {
            return Arrays.copyOf(frame, coder.encode(content, content.length, frame));
        }
    }

    /** Frames one after the other are a stream that zstd, gzip and xz decode. */
    @ParameterizedTest
    @CsvSource({"ZSTD, 1, zstd -dc", "ZSTD, 19, zstd -dc", "GZIP, 1, gzip -dc", "GZIP, 9, gzip -dc", "XZ, 0, xz -dc", "XZ, 6, xz -dc",
        "STORED, 0, zstd -dc", "NONE, 0, cat"})
    void theStandardToolDecodesFramesInARow(Codec codec, int level, String tool) throws IOException {
        ByteArrayOutputStream raw = new ByteArrayOutputStream();
        ByteArrayOutputStream frames = new ByteArrayOutputStream();
        for (byte[] content : contents()) {
            raw.write(content);
            frames.write(encode(codec, level, content));
        }
        Files.write(folder.resolve("frames"), frames.toByteArray());
        Tools.run(folder, tool + " < frames > back");
        assertArrayEquals(raw.toByteArray(), Files.readAllBytes(folder.resolve("back")));
    }

    @ParameterizedTest
    @EnumSource(Codec.class)
    void everyFrameComesBackAndStaysWithinItsBound(Codec codec) throws IOException {
        try (FrameCoder coder = codec.coder(codec.usualLevel())) {
            for (byte[] content : contents()) {
                byte[] frame = encode(codec, codec.usualLevel(), content);
                assertTrue(frame.length <= codec.maxFrameBytes(content.length));
                byte[] back = new byte[Chunks.BYTES];
                coder.decode(frame, frame.length, back, content.length);
                assertArrayEquals(content, Arrays.copyOf(back, content.length));
            }
        }
    }

    /** Cut, extended, of another length, or noise: a reason, never a wrong answer or another exception. */
    @ParameterizedTest
    @EnumSource(value = Codec.class, names = {"STORED", "ZSTD", "GZIP", "XZ"})
    void aFrameThatIsNotOneIsRefused(Codec codec) throws IOException {
        byte[] content = contents().get(1);
        byte[] frame = encode(codec, codec.usualLevel(), content);
        byte[] back = new byte[Chunks.BYTES];
        Random random = new Random(4);
        try (FrameCoder coder = codec.coder(codec.usualLevel())) {
            assertThrows(BadFrameException.class, () -> coder.decode(frame, frame.length - 3, back, content.length));
            assertThrows(BadFrameException.class, () -> coder.decode(frame, frame.length, back, content.length - 1));
            byte[] twice = Arrays.copyOf(frame, frame.length * 2);
            System.arraycopy(frame, 0, twice, frame.length, frame.length);
            assertThrows(BadFrameException.class, () -> coder.decode(twice, twice.length, back, content.length));
            for (int i = 0; i < 200; i++) {
                byte[] noise = new byte[64 + i];
                random.nextBytes(noise);
                assertThrows(BadFrameException.class, () -> coder.decode(noise, noise.length, back, content.length));
            }
        }
    }

    @Test
    void codecsAndLevelsAreChosenByWord() throws IOException {
        assertEquals(Codec.XZ, Codec.parse("xz"));
        assertEquals("There is no codec \"ZSTD\". Choose one of none, stored, gzip, zstd, xz.",
            assertThrows(FaultException.class, () -> Codec.parse("ZSTD")).getMessage());
        assertEquals(19, Codec.ZSTD.requireLevel(19));
        assertEquals("The codec gzip has no level 0. Choose 1 to 9.",
            assertThrows(FaultException.class, () -> Codec.GZIP.requireLevel(0)).getMessage());
    }

    @Test
    void theFrameOfZerosIsSmallAndTheSameEachTime() throws IOException {
        ZeroFrame zero = ZeroFrame.of(Codec.ZSTD, 3, Chunks.BYTES);
        assertEquals(zero, ZeroFrame.of(Codec.ZSTD, 3, Chunks.BYTES));
        assertTrue(zero.frame().length < 64, "" + zero.frame().length);
        assertTrue(Chunks.isZero(new byte[Chunks.BYTES], Chunks.BYTES));
        byte[] almost = new byte[Chunks.BYTES];
        almost[Chunks.BYTES - 1] = 1;
        assertEquals(false, Chunks.isZero(almost, Chunks.BYTES));
        assertTrue(Chunks.isZero(almost, Chunks.BYTES - 1));
    }

    /** Check value of CRC-32C (from memory): "123456789" gives E3069283. */
    @Test
    void chunksOfADiskAndTheirChecksum() {
        assertEquals(0xE3069283, Chunks.crc("123456789".getBytes(StandardCharsets.US_ASCII), 9));
        assertEquals(2, Chunks.count(Chunks.BYTES + 1L));
        assertEquals(1, Chunks.length(1, Chunks.BYTES + 1L));
        assertEquals(Chunks.BYTES, Chunks.length(0, Chunks.BYTES + 1L));
    }
}
