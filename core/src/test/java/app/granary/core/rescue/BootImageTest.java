package app.granary.core.rescue;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.BlockSource;
import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Random;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;

/** Against files made by the system's own tools see the engine's tests; here are the hostile ones. */
class BootImageTest {
    private static final int DESCRIPTOR = 32_768;

    private static BlockSource of(byte[] content) {
        return new BlockSource() {
            @Override
            public String name() {
                return "file";
            }

            @Override
            public long sizeBytes() {
                return content.length;
            }

            @Override
            public int sectorBytes() {
                return 512;
            }

            @Override
            public void read(long offset, ByteBuffer into) throws IOException {
                if (offset < 0 || into.remaining() > content.length - offset) {
                    throw new EOFException();
                }
                into.put(content, (int) offset, into.remaining());
            }
        };
    }

    private static ByteBuffer iso(int bytes, int blocks, int blockBytes) {
        ByteBuffer out = ByteBuffer.allocate(bytes).order(ByteOrder.LITTLE_ENDIAN);
        out.put(0, (byte) 0xFA).putShort(510, (short) 0xAA55).put(DESCRIPTOR, (byte) 1).put(DESCRIPTOR + 1,
            "CD001".getBytes(StandardCharsets.US_ASCII));
        return out.putInt(DESCRIPTOR + 80, blocks).putShort(DESCRIPTOR + 128, (short) blockBytes);
    }

    /** Lengths that would overflow, or are zero, refuse; none is believed. */
    @Test
    void lengthsThatCannotBeRefuse() throws IOException {
        assertEquals("", BootImage.read(of(iso(100 * 2048, 100, 2048).array())).refusal());
        for (int[] claim : new int[][] {{101, 2048}, {0, 2048}, {100, 0}, {-1, 2048}, {-1, -1}, {Integer.MAX_VALUE, 0xFFFF}}) {
            assertTrue(BootImage.read(of(iso(100 * 2048, claim[0], claim[1]).array())).refusal().contains("cut short"),
                claim[0] + " " + claim[1]);
        }
    }

    @Test
    void everyCutOfAFileIsAnswered() throws IOException {
        byte[] whole = iso(40 * 1024, 20, 2048).array();
        for (int length = 0; length < whole.length; length += 97) {
            assertNotNull(BootImage.read(of(java.util.Arrays.copyOf(whole, length))));
        }
    }

    @RepeatedTest(20)
    void noBytesMakeItFailOrLoop(RepetitionInfo seed) throws IOException {
        Random random = new Random(seed.getCurrentRepetition());
        for (int i = 0; i < 200; i++) {
            byte[] content = iso(36 * 1024, 18, 2048).array();
            for (int change = 0; change < 1 + random.nextInt(40); change++) {
                int at = random.nextInt(3) == 0 ? random.nextInt(1024)
                    : random.nextInt(3) == 1 ? DESCRIPTOR + random.nextInt(200) : random.nextInt(content.length);
                content[at] = (byte) random.nextInt();
            }
            BootImage read = BootImage.read(of(content));
            assertTrue(read.bytes() <= content.length || !read.refusal().isEmpty());
        }
    }
}
