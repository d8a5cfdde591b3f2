package app.granary.engine.bag;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.image.BadStretch;
import app.granary.core.fault.FaultException;
import app.granary.engine.codec.Chunks;
import app.granary.engine.codec.Codec;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ImageJsonTest {
    private static final long DISK = 10L * Chunks.BYTES + 512;

    private static FrameIndex index() {
        FrameIndex index = new FrameIndex();
        index.add(1, 700, 0xCAFEBABE, false);
        index.add(1, 45, 5, true);
        index.add(8, 45, 5, true);
        index.add(1, 30, -1, false);
        return index;
    }

    private static ImageDescription description() {
        return new ImageDescription("night", "2026-11-24T02:14:00+01:00", new DiskIdentity("Halden \"S2\"", "22-HS", DISK), 512, "gpt",
            Codec.ZSTD, 3, false, 4242, false,
            List.of(new BadStretch(5 << 20, 512), new BadStretch((5 << 20) + 4096, 1024)),
            List.of(new ImageDescription.ImagePartition(2, 1 << 20, 3 << 20, "83", "main", "ext4", 77, "")),
            List.of(new ImageDescription.LeftOutContent(2, "swapfile", "swap", 4096)),
            List.of(new ImageDescription.Part("disk.img.zst.000", 700 + 9 * 45, 700 + 9 * 45),
                new ImageDescription.Part("disk.img.zst.001", 30, 30)));
    }

    private static String text() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ImageJsonWriter.write(out, description(), index());
        return out.toString(StandardCharsets.UTF_8);
    }

    private static ImageJson.Content read(String text) throws IOException {
        return ImageJson.read(new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)), "image.json");
    }

    @Test
    void whatIsWrittenIsReadBackTheSame() throws IOException {
        ImageJson.Content back = read(text());
        assertEquals(description(), back.description());
        assertEquals(11, back.index().chunks());
        assertEquals(3, back.index().rows(), "nine equal frames are one row");
        assertEquals(9, back.index().count(1));
        assertEquals(0xCAFEBABE, back.index().crc(0));
        assertEquals(512, back.index().rawBytes(2, DISK));
        assertEquals(700 + 9 * 45 + 30, back.index().totalStoredBytes());
    }

    /** A general JSON reader sees the documented fields (docs/format.md). */
    @Test
    void theDocumentedFieldsAreThere() throws IOException {
        JsonNode json = new ObjectMapper().readTree(text());
        assertEquals("granary-image", json.get("format").asText());
        assertEquals("[0,1048576,700,3405691582]", json.get("chunks").get(0).toString());
        assertEquals("[1048576,1048576,45,5,9]", json.get("chunks").get(1).toString());
        assertEquals("[10485760,512,30,4294967295]", json.get("chunks").get(2).toString());
        assertEquals("{\"startBytes\":5242880,\"sizeBytes\":512}", json.get("badSectors").get(0).toString());
        assertEquals("none", json.get("encryption").asText());
        assertEquals("[{\"partition\":2,\"path\":\"swapfile\",\"what\":\"swap\",\"bytes\":4096}]", json.get("leftOut").toString());
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "\"granary-image\"|\"other\"|it does not say",
        "\"version\":1|\"version\":2|its version is 2, and this Granary reads 1",
        "\"chunkBytes\":1048576|\"chunkBytes\":4096|its chunks are not 1048576 bytes",
        "\"sizeBytes\":10486272|\"sizeBytes\":99486272|cannot be used",
        "[0,1048576,700|[0,1048575,700|a chunk has the wrong length",
        "[0,1048576,700|[5,1048576,700|do not follow each other at byte 0",
        "45,5,9]|45,5,999999999]|reaches past the end of the disk",
        "45,5,9]|45,5,0]|reaches past the end of the disk",
        "45,5,9]|45,5,9,9]|more than five numbers",
        "45,5,9]|45]|not four or five numbers",
        "1048576,700,|1048576,700000000,|a frame is said to be 700000000 bytes long",
        "1048576,700,|1048576,0,|a frame is said to be 0 bytes long",
        "3405691582|9405691582|a checksum is no 32-bit number",
        "\"bytes\":30|\"bytes\":31|its parts add up to 1136 bytes, its frames to 1135",
        "\"bytes\":30|\"bytes\":-30|a part has an impossible length",
        "disk.img.zst.001|a/b|a part has an impossible name",
        "\"zstd\"|\"rar\"|There is no codec",
        "\"level\":3|\"level\":77|has no level 77",
        "\"startBytes\":1048576|\"startBytes\":-4|a partition has an impossible place",
        "\"sectorBytes\":512|\"sectorBytes\":1|its sector is 1 bytes",
        "\"allBlocks\":false|\"allBlocks\":fals|it is not JSON at byte",
    })
    void whatContradictsItselfIsRefusedWithAReason(String from, String to, String reason) throws IOException {
        assertTrue(text().contains(from), from);
        FaultException fault = assertThrows(FaultException.class,
            () -> read(text().replaceFirst(java.util.regex.Pattern.quote(from), java.util.regex.Matcher.quoteReplacement(to))));
        assertTrue(fault.getMessage().contains(reason), fault.getMessage());
    }

    @Test
    void anyChangedByteGivesAnAnswerOrARefusal() throws IOException {
        byte[] sound = text().getBytes(StandardCharsets.UTF_8);
        Random random = new Random(9);
        for (int i = 0; i < 2000; i++) {
            byte[] changed = sound.clone();
            changed[random.nextInt(changed.length)] = (byte) random.nextInt(256);
            try {
                ImageJson.read(
                    new ByteArrayInputStream(changed, 0, random.nextInt(8) == 0 ? random.nextInt(changed.length) : changed.length), "x");
            } catch (FaultException refused) {
                assertTrue(refused.getMessage().endsWith("."), refused.getMessage());
            }
        }
    }
}
