package app.granary.engine.bag;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.codec.Codec;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.security.MessageDigest;
import java.util.HashSet;
import java.util.OptionalLong;
import java.util.Set;

/**
 * What a capture was begun with: the first line of its log.
 *
 * @param begunAt    ISO 8601 with offset
 * @param disk       the disk it reads
 * @param choice     what of the disk is read
 * @param surveyed   SHA-256 of what was to be read, so that another state of the disk is noticed
 * @param usedBytes  bytes to be read
 * @param splitBytes longest part; empty for a single one
 * @param encrypted  whether the parts are
 * @param comment    a person's words on it, which go into the image; an empty string for none
 */
public record Begun(String begunAt, DiskIdentity disk, SurveyChoice choice, String surveyed, long usedBytes, Codec codec, int level,
    OptionalLong splitBytes, boolean encrypted, String comment) {
    private static final ObjectMapper JSON = new ObjectMapper();
    private static final int VERSION = 1;

    /** Without a comment. */
    public Begun(String begunAt, DiskIdentity disk, SurveyChoice choice, String surveyed, long usedBytes, Codec codec, int level,
        OptionalLong splitBytes, boolean encrypted) {
        this(begunAt, disk, choice, surveyed, usedBytes, codec, level, splitBytes, encrypted, "");
    }

    /** A digest of every range that is to be read, and of the disk's length. */
    public static String digestOf(DiskSurvey survey) {
        MessageDigest digest = Digests.sha256();
        ByteBuffer pair = ByteBuffer.allocate(2 * Long.BYTES);
        digest.update(pair.putLong(survey.sizeBytes()).putLong(survey.toRead().count()).array());
        for (int i = 0; i < survey.toRead().count(); i++) {
            digest.update(pair.clear().putLong(survey.toRead().start(i)).putLong(survey.toRead().end(i)).array());
        }
        return Digests.hex(digest.digest());
    }

    String line() {
        ObjectNode json = JSON.createObjectNode().put("capture", VERSION).put("begunAt", begunAt).put("model", disk.model())
            .put("serial", disk.serial())
            .put("sizeBytes", disk.sizeBytes()).put("allBlocks", choice.allBlocks()).put("keepSwap", choice.keepSwap())
            .put("surveyed", surveyed).put("usedBytes", usedBytes)
            .put("codec", codec.word()).put("level", level).put("encrypted", encrypted)
            .put("comment", comment);
        choice.without().stream().sorted().forEach(json.putArray("without")::add);
        splitBytes.ifPresent(bytes -> json.put("splitBytes", bytes));
        return json.toString();
    }

    /** @throws app.granary.core.fault.FaultException when the line is not such a head */
    static Begun parse(String line, String where) throws IOException {
        JsonNode json;
        try {
            json = JSON.readTree(line);
        } catch (com.fasterxml.jackson.core.JsonProcessingException broken) {
            throw unusable(where, "its first line is not JSON");
        }
        if (json == null || json.path("capture").asInt() != VERSION) {
            throw unusable(where, "its first line is not that of a capture's log");
        }
        Codec codec = Codec.parse(json.path("codec").asText());
        OptionalLong split = json.has("splitBytes") ? OptionalLong.of(json.path("splitBytes").asLong()) : OptionalLong.empty();
        long size = json.path("sizeBytes").asLong();
        if (size <= 0 || split.isPresent() && split.getAsLong() < BagWriter.MIN_SPLIT) {
            throw unusable(where, "its first line has an impossible size");
        }
        Set<Integer> without = new HashSet<>();
        json.path("without").forEach(each -> without.add(each.asInt()));
        return new Begun(json.path("begunAt").asText(), new DiskIdentity(json.path("model").asText(), json.path("serial").asText(), size),
            new SurveyChoice(json.path("allBlocks").asBoolean(), json.path("keepSwap").asBoolean(), without),
            json.path("surveyed").asText(), json.path("usedBytes").asLong(), codec,
            codec.requireLevel(json.path("level").asInt()), split, json.path("encrypted").asBoolean(), json.path("comment").asText());
    }

    static IOException unusable(String where, String why) {
        return Fault.of(Fault.Kind.DAMAGED, where, where + " cannot be carried on: " + why + ". Discard it and capture the disk again.")
            .asException();
    }
}
