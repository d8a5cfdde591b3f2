package app.granary.engine.bag;

import app.granary.core.image.BadStretch;
import app.granary.engine.codec.Chunks;
import com.fasterxml.jackson.core.JsonEncoding;
import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;

/** Writes what {@link ImageJson} reads. */
public final class ImageJsonWriter {
    private static final JsonFactory JSON = new JsonFactory();

    private ImageJsonWriter() {
    }

    public static void write(OutputStream out, ImageDescription d, FrameIndex index) throws IOException {
        try (JsonGenerator json = JSON.createGenerator(out, JsonEncoding.UTF8)) {
            json.writeStartObject();
            json.writeStringField("format", ImageJson.FORMAT);
            json.writeNumberField("version", ImageJson.VERSION);
            json.writeStringField("name", d.name());
            json.writeStringField("madeAt", d.madeAt());
            json.writeStringField("model", d.disk().model());
            json.writeStringField("serial", d.disk().serial());
            json.writeNumberField("sizeBytes", d.disk().sizeBytes());
            json.writeNumberField("sectorBytes", d.sectorBytes());
            json.writeStringField("scheme", d.scheme());
            json.writeStringField("codec", d.codec().word());
            json.writeNumberField("level", d.level());
            json.writeBooleanField("allBlocks", d.allBlocks());
            json.writeNumberField("usedBytes", d.usedBytes());
            json.writeNumberField("chunkBytes", Chunks.BYTES);
            json.writeStringField("encryption", d.encrypted() ? ImageJson.OPENPGP : "none");
            writePartitions(json, d.partitions());
            writeParts(json, d);
            writeBadSectors(json, d.badSectors());
            writeLeftOut(json, d.leftOut());
            writeChunks(json, d, index);
            json.writeEndObject();
        }
    }

    private static void writeParts(JsonGenerator json, ImageDescription d) throws IOException {
        json.writeArrayFieldStart("parts");
        for (ImageDescription.Part part : d.parts()) {
            json.writeStartObject();
            json.writeStringField("name", part.name());
            json.writeNumberField("bytes", part.bytes());
            if (d.encrypted()) {
                json.writeNumberField("storedBytes", part.storedBytes());
            }
            json.writeEndObject();
        }
        json.writeEndArray();
    }

    private static void writeBadSectors(JsonGenerator json, List<BadStretch> stretches) throws IOException {
        json.writeArrayFieldStart("badSectors");
        for (BadStretch stretch : stretches) {
            json.writeStartObject();
            json.writeNumberField("startBytes", stretch.startBytes());
            json.writeNumberField("sizeBytes", stretch.sizeBytes());
            json.writeEndObject();
        }
        json.writeEndArray();
    }

    private static void writeLeftOut(JsonGenerator json, List<ImageDescription.LeftOutContent> contents) throws IOException {
        json.writeArrayFieldStart("leftOut");
        for (ImageDescription.LeftOutContent each : contents) {
            json.writeStartObject();
            json.writeNumberField("partition", each.partition());
            json.writeStringField("path", each.path());
            json.writeStringField("what", each.what());
            json.writeNumberField("bytes", each.bytes());
            json.writeEndObject();
        }
        json.writeEndArray();
    }

    private static void writePartitions(JsonGenerator json, List<ImageDescription.ImagePartition> partitions) throws IOException {
        json.writeArrayFieldStart("partitions");
        for (ImageDescription.ImagePartition p : partitions) {
            json.writeStartObject();
            json.writeNumberField("number", p.number());
            json.writeNumberField("startBytes", p.startBytes());
            json.writeNumberField("sizeBytes", p.sizeBytes());
            json.writeStringField("type", p.type());
            json.writeStringField("name", p.name());
            json.writeStringField("fileSystem", p.fileSystem());
            json.writeNumberField("readBytes", p.readBytes());
            json.writeStringField("reason", p.reason());
            json.writeEndObject();
        }
        json.writeEndArray();
    }

    private static void writeChunks(JsonGenerator json, ImageDescription d, FrameIndex index) throws IOException {
        json.writeArrayFieldStart("chunks");
        for (int row = 0; row < index.rows(); row++) {
            json.writeRaw(row == 0 ? "\n" : ",\n");
            json.writeRaw("[" + index.firstChunk(row) * Chunks.BYTES + "," + index.rawBytes(row, d.disk().sizeBytes()) + ","
                + index.storedBytes(row) + ","
                + Integer.toUnsignedLong(index.crc(row)) + (index.count(row) > 1 ? "," + index.count(row) : "") + "]");
        }
        json.writeRaw("\n");
        json.writeEndArray();
    }
}
