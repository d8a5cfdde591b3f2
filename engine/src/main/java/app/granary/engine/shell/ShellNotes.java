package app.granary.engine.shell;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.image.ImageName;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.source.Folders;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** The file beside the images: a JSON object a line (RFC 8259), only ever added to. What of it cannot be read is passed over. */
public final class ShellNotes {
    /** In the folder the images lie in. */
    public static final String FILE = "granary-shell.log";
    /** Longer ones are no one's; only their end would be of use. */
    public static final int LONGEST_FILE = 4 << 20;
    private static final int LONGEST_LINE = 4_000;
    private static final ObjectMapper JSON = new ObjectMapper();

    private ShellNotes() {
    }

    /** Adds one and forces it; nothing is written through a link. */
    public static void add(Path folder, ShellNote note) throws IOException {
        byte[] line = (line(note) + "\n").getBytes(StandardCharsets.UTF_8);
        try (FileChannel out = FileChannel.open(folder.resolve(FILE), StandardOpenOption.CREATE, StandardOpenOption.WRITE,
            StandardOpenOption.APPEND, LinkOption.NOFOLLOW_LINKS)) {
            ByteBuffer left = ByteBuffer.wrap(line);
            while (left.hasRemaining()) {
                out.write(left);
            }
            out.force(true);
        }
        Folders.sync(folder);
    }

    /** In the order they were added. */
    public static List<ShellNote> read(byte[] file) {
        List<ShellNote> out = new ArrayList<>();
        for (String line : new String(file, StandardCharsets.UTF_8).split("\n")) {
            if (line.length() <= LONGEST_LINE) {
                parse(line).ifPresent(out::add);
            }
        }
        return out;
    }

    /** The same for the same note, whatever file it is in. */
    public static String line(ShellNote note) {
        return JSON.createObjectNode().put("at", note.at().toString()).put("by", note.by()).put("did", note.did().word())
            .put("image", note.image()).put("model", note.disk().model()).put("serial", note.disk().serial())
            .put("diskBytes", note.disk().sizeBytes()).put("level", note.level().word()).put("ok", note.ok()).put("bytes", note.bytes())
            .put("seconds", note.seconds()).put("comment", note.comment()).toString();
    }

    private static Optional<ShellNote> parse(String line) {
        try {
            JsonNode json = JSON.readTree(line);
            Optional<ShellNote.Did> did = Arrays.stream(ShellNote.Did.values())
                .filter(each -> each.word().equals(json.path("did").asText())).findFirst();
            Optional<ProofLevel> level = Arrays.stream(ProofLevel.values())
                .filter(each -> each.word().equals(json.path("level").asText())).findFirst();
            long size = json.path("diskBytes").asLong(-1);
            if (did.isEmpty() || level.isEmpty() || level.get() == ProofLevel.BOOTED || size <= 0 || json.path("bytes").asLong(-1) < 0
                || !json.path("ok").isBoolean() || !(json.path("seconds").asDouble(-1) >= 0)) {
                return Optional.empty();
            }
            return Optional.of(new ShellNote(Instant.parse(json.path("at").asText()), json.path("by").asText(), did.get(),
                ImageName.parse(json.path("image").asText()).text(),
                new DiskIdentity(json.path("model").asText(), json.path("serial").asText(), size), level.get(),
                json.path("ok").asBoolean(), json.path("bytes").asLong(), json.path("seconds").asDouble(), json.path("comment").asText()));
        } catch (IOException | DateTimeException unreadable) {
            return Optional.empty();
        }
    }
}
