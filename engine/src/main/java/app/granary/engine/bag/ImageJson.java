package app.granary.engine.bag;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.Fault;
import app.granary.core.image.BadStretch;
import app.granary.engine.codec.Chunks;
import app.granary.engine.codec.Codec;
import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Reads {@code data/image.json}, which {@link ImageJsonWriter} writes. Both stream: memory follows the rows really there. Each row of
 * {@code chunks} is {@code [offsetBytes, lengthBytes, storedBytes, crc32c]} and, for equal frames in a row, a fifth number that counts
 * them.
 */
public final class ImageJson {
    public static final String FORMAT = "granary-image";
    public static final int VERSION = 1;
    static final String OPENPGP = "openpgp";
    private static final JsonFactory JSON = new JsonFactory();

    /** An image's description and its frames. */
    public record Content(ImageDescription description, FrameIndex index) {
    }

    private ImageJson() {
    }

    /**
     * @param where the file, for messages
     * @throws app.granary.core.fault.FaultException when the text is not such a description or contradicts itself
     */
    public static Content read(InputStream in, String where) throws IOException {
        Fields found = new Fields(where);
        try (JsonParser json = JSON.createParser(new BufferedInputStream(in))) {
            require(json.nextToken() == JsonToken.START_OBJECT, where, "it does not begin with {");
            while (json.nextToken() == JsonToken.FIELD_NAME) {
                found.take(json, json.currentName(), json.nextToken());
            }
            require(json.nextToken() == null, where, "more follows after its end");
        } catch (com.fasterxml.jackson.core.JsonProcessingException broken) {
            throw damaged(where, "it is not JSON at byte " + broken.getLocation().getByteOffset());
        }
        found.requireSound();
        return found.content();
    }

    /** What was read, before it is known whether it holds together. */
    private static final class Fields {
        private final String where;
        private final Map<String, String> text = new HashMap<>();
        private final Map<String, Long> numbers = new HashMap<>();
        private final List<ImageDescription.ImagePartition> partitions = new ArrayList<>();
        private final List<ImageDescription.LeftOutContent> leftOut = new ArrayList<>();
        private final List<ImageDescription.Part> parts = new ArrayList<>();
        private final List<BadStretch> bad = new ArrayList<>();
        private final FrameIndex index = new FrameIndex();

        private Fields(String where) {
            this.where = where;
        }

        void take(JsonParser json, String field, JsonToken value) throws IOException {
            switch (value) {
                case VALUE_STRING -> text.put(field, json.getText());
                case VALUE_NUMBER_INT -> numbers.put(field, json.getLongValue());
                case VALUE_TRUE, VALUE_FALSE -> numbers.put(field, value == JsonToken.VALUE_TRUE ? 1L : 0L);
                case START_ARRAY -> list(json, field);
                default -> json.skipChildren();
            }
        }

        private void list(JsonParser json, String field) throws IOException {
            switch (field) {
                case "chunks" -> readChunks(json, index, numbers.getOrDefault("sizeBytes", 0L), codec(), where);
                case "partitions" -> readRecords(json, row -> partitions.add(partition(row, where)));
                case "parts" -> readRecords(json, row -> parts.add(new ImageDescription.Part(row.text("name"), row.number("bytes", -1),
                    row.number("storedBytes", row.number("bytes", -1)))));
                case "badSectors" -> readRecords(json, row -> bad.add(badStretch(row, where)));
                case "leftOut" -> readRecords(json, row -> leftOut.add(new ImageDescription.LeftOutContent(
                    (int) row.number("partition", 0), row.text("path"), row.text("what"), row.number("bytes", 0))));
                default -> json.skipChildren();
            }
        }

        private Codec codec() throws IOException {
            return Codec.parse(text.getOrDefault("codec", ""));
        }

        private long size() {
            return numbers.getOrDefault("sizeBytes", -1L);
        }

        private String encryption() {
            return text.getOrDefault("encryption", "none");
        }

        private long sector() {
            return numbers.getOrDefault("sectorBytes", 0L);
        }

        void requireSound() throws IOException {
            require(FORMAT.equals(text.get("format")), where, "it does not say \"" + FORMAT + "\"");
            require(numbers.getOrDefault("version", -1L) == VERSION, where,
                "its version is " + numbers.get("version") + ", and this Granary reads " + VERSION);
            require(numbers.getOrDefault("chunkBytes", -1L) == Chunks.BYTES, where, "its chunks are not " + Chunks.BYTES + " bytes");
            require(size() > 0 && index.chunks() == Chunks.count(size()), where,
                "it lists " + index.chunks() + " chunks for " + size() + " bytes");
            long stored = 0;
            for (ImageDescription.Part part : parts) {
                require(part.name().matches("[A-Za-z0-9][A-Za-z0-9._-]{0,99}"), where, "a part has an impossible name");
                require(part.bytes() >= 0 && part.storedBytes() >= 0 && stored + part.bytes() >= stored, where,
                    "a part has an impossible length");
                stored += part.bytes();
            }
            require(stored == index.totalStoredBytes(), where,
                "its parts add up to " + stored + " bytes, its frames to " + index.totalStoredBytes());
            require(encryption().equals("none") || encryption().equals(OPENPGP), where, "its encryption is not known to this Granary");
            require(bad.stream().allMatch(each -> each.endBytes() <= size()), where, "it lists bad sectors past the end of the disk");
            require(sector() >= 512 && sector() <= 65536, where, "its sector is " + sector() + " bytes");
        }

        Content content() throws IOException {
            Codec codec = codec();
            int level = codec.requireLevel((int) Math.max(-1, Math.min(99, numbers.getOrDefault("level", -1L))));
            DiskIdentity disk = new DiskIdentity(text.getOrDefault("model", ""), text.getOrDefault("serial", ""), size());
            return new Content(new ImageDescription(text.getOrDefault("name", ""), text.getOrDefault("madeAt", ""), disk, (int) sector(),
                text.getOrDefault("scheme", "none"), codec, level, numbers.getOrDefault("allBlocks", 0L) == 1,
                numbers.getOrDefault("usedBytes", 0L), encryption().equals(OPENPGP), bad, partitions, leftOut, parts), index);
        }
    }

    private static void readChunks(JsonParser json, FrameIndex index, long diskBytes, Codec codec, String where) throws IOException {
        long total = Chunks.count(diskBytes);
        int longest = codec.maxFrameBytes(Chunks.BYTES);
        long[] row = new long[5];
        while (json.nextToken() == JsonToken.START_ARRAY) {
            int fields = 0;
            row[4] = 1;
            while (json.nextToken() == JsonToken.VALUE_NUMBER_INT) {
                require(fields < 5, where, "a row of its chunks has more than five numbers");
                row[fields++] = json.getLongValue();
            }
            require(fields >= 4 && json.currentToken() == JsonToken.END_ARRAY, where, "a row of its chunks is not four or five numbers");
            long first = index.chunks();
            require(row[0] == first * Chunks.BYTES, where,
                "its chunks do not follow each other at byte " + first * Chunks.BYTES + " of the disk");
            require(row[4] > 0 && row[4] <= total - first, where, "a row of its chunks reaches past the end of the disk");
            require(row[1] == Chunks.length(first + row[4] - 1, diskBytes) && (row[4] == 1 || row[1] == Chunks.BYTES), where,
                "a chunk has the wrong length");
            require(row[2] > 0 && row[2] <= longest, where, "a frame is said to be " + row[2] + " bytes long");
            require(row[3] >= 0 && row[3] <= 0xFFFF_FFFFL, where, "a checksum is no 32-bit number");
            index.add(row[4], (int) row[2], (int) row[3], false);
        }
        require(json.currentToken() == JsonToken.END_ARRAY, where, "its chunks are not a list of rows");
    }

    /** The plain fields of one object in a list. */
    private record Row(Map<String, String> texts, Map<String, Long> numbers) {
        String text(String field) {
            return texts.getOrDefault(field, "");
        }

        long number(String field, long absent) {
            return numbers.getOrDefault(field, absent);
        }
    }

    private interface RowTaker {
        void take(Row row) throws IOException;
    }

    private static void readRecords(JsonParser json, RowTaker taker) throws IOException {
        while (json.nextToken() == JsonToken.START_OBJECT) {
            Row row = new Row(new HashMap<>(), new HashMap<>());
            while (json.nextToken() == JsonToken.FIELD_NAME) {
                String field = json.currentName();
                if (json.nextToken() == JsonToken.VALUE_NUMBER_INT) {
                    row.numbers.put(field, json.getLongValue());
                } else if (json.currentToken() == JsonToken.VALUE_STRING) {
                    row.texts.put(field, json.getText());
                } else {
                    json.skipChildren();
                }
            }
            taker.take(row);
        }
    }

    private static BadStretch badStretch(Row row, String where) throws IOException {
        long start = row.number("startBytes", -1);
        long size = row.number("sizeBytes", 0);
        require(start >= 0 && size > 0 && start + size > start, where, "it lists impossible bad sectors");
        return new BadStretch(start, size);
    }

    private static ImageDescription.ImagePartition partition(Row row, String where) throws IOException {
        long start = row.number("startBytes", 0);
        long size = row.number("sizeBytes", 0);
        require(start >= 0 && size >= 0 && start + size >= start, where, "a partition has an impossible place");
        return new ImageDescription.ImagePartition((int) row.number("number", 0), start, size, row.text("type"), row.text("name"),
            row.text("fileSystem"),
            row.number("readBytes", 0), row.text("reason"));
    }

    private static void require(boolean holds, String where, String why) throws IOException {
        if (!holds) {
            throw damaged(where, why);
        }
    }

    private static IOException damaged(String where, String why) {
        return Fault.of(Fault.Kind.DAMAGED, where,
            where + " cannot be used: " + why + ". The parts can still be decoded with the codec's own tool.").asException();
    }
}
