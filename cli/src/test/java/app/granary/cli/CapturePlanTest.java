package app.granary.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A plan that an office exported, done in a bare shell. */
class CapturePlanTest {
    private static final ObjectMapper JSON = new ObjectMapper();

    @TempDir
    Path folder;
    private Path disk;
    private ObjectNode plan;
    private long usedBytes;

    /** What it says of the disk is what the command tells of it. */
    @BeforeEach
    void aPlanForThatDisk() throws IOException {
        disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        Files.createDirectories(folder.resolve("drive"));
        usedBytes = JSON.readTree(capture("--json", "--name", "first").printed()).get("usedBytes").asLong();
        JsonNode told = JSON.readTree(folder.resolve("drive/first/data/image.json").toFile());
        plan = JSON.createObjectNode().put("granaryPlan", 1);
        ObjectNode form = plan.putObject("plan").put("name", "Weekly").put("codec", "gzip").put("level", 2).put("splitBytes", 100_000)
            .put("allBlocks", false).put("keepSwap", false).put("encrypted", false).put("naming", "{computer}-{disk}-{date}");
        form.putObject("source").put("computer", "DATUM").put("disk", "disk 1").put("model", told.get("model").asText())
            .put("serial", told.get("serial").asText()).put("sizeBytes", Files.size(disk)).putArray("without").add(2);
    }

    private Ran capture(String... more) {
        String[] all = new String[3 + more.length];
        System.arraycopy(new String[] {"capture", disk.toString(), folder.resolve("drive").toString()}, 0, all, 0, 3);
        System.arraycopy(more, 0, all, 3, more.length);
        return Ran.of(all);
    }

    private String written(String text) throws IOException {
        return Files.writeString(folder.resolve("plan.json"), text).toString();
    }

    private String refused(ObjectNode with, String... more) throws IOException {
        String[] all = new String[2 + more.length];
        System.arraycopy(new String[] {"--plan", written(with.toString())}, 0, all, 0, 2);
        System.arraycopy(more, 0, all, 2, more.length);
        Ran ran = capture(all);
        assertTrue(ran.exit() != 0, ran.printed());
        return ran.complained();
    }

    /** By the plan's codec, in its parts, without its partition, under its name; gzip tests what gzip made. */
    @Test
    void whatThePlanSaysIsDone() throws IOException {
        Ran ran = capture("--json", "--plan", written(plan.toString()));
        assertEquals(0, ran.exit(), ran.complained());
        Path made = Path.of(JSON.readTree(ran.printed()).get("bag").asText());
        assertTrue(made.getFileName().toString().matches("DATUM-disk-1-[0-9]{8}-[0-9]{4}Z"), made.toString());
        Tools.run(made, "cat data/disk.img.gz* | gzip -tq && test $(ls data/disk.img.gz* | wc -l) -gt 1");
        Tools.run(made, "sha256sum -c --quiet manifest-sha256.txt");
        assertTrue(JSON.readTree(ran.printed()).get("usedBytes").asLong() < usedBytes, "partition 2 is left out");
    }

    @Test
    void whatIsNotThePlansIsRefusedAndNothingIsWritten() throws IOException {
        ObjectNode other = plan.deepCopy();
        ((ObjectNode) other.get("plan").get("source")).put("serial", "S-ANOTHER");
        assertTrue(refused(other).contains("is for DATUM, disk 1 ("), refused(other));
        ObjectNode larger = plan.deepCopy();
        ((ObjectNode) larger.get("plan").get("source")).put("sizeBytes", Files.size(disk) + 512);
        assertTrue(refused(larger).contains("this disk is another"), "a larger twin of the same serial");
        ObjectNode secret = plan.deepCopy();
        ((ObjectNode) secret.get("plan")).put("encrypted", true);
        assertTrue(refused(secret).contains("--passphrase-file"));
        assertTrue(refused(plan, "--codec", "xz").contains("Leave that out, or the plan."));
        assertTrue(refused(plan, "--only", "1").contains("Leave that out, or the plan."));
        assertTrue(refused(plan, "--carry-on").contains("which unfinished capture is meant"));
        ObjectNode newer = plan.deepCopy().put("granaryPlan", 2);
        assertTrue(refused(newer).contains("newer Granary"));
        for (String field : List.of("codec", "level", "naming", "source", "splitBytes", "allBlocks", "encrypted")) {
            for (String value : List.of("null", "-1", "{}", "\"?\"", "1e400", "[null]", "")) {
                ObjectNode harmed = plan.deepCopy();
                if (value.isEmpty()) {
                    ((ObjectNode) harmed.get("plan")).remove(field);
                } else {
                    ((ObjectNode) harmed.get("plan")).set(field, JSON.readTree(value));
                }
                if (!(field.equals("splitBytes") && value.equals("null"))) {
                    assertTrue(refused(harmed).trim().endsWith("."), field + " " + value);
                }
            }
        }
        ObjectNode odd = plan.deepCopy();
        ((ObjectNode) odd.get("plan").get("source")).putArray("without").add("2");
        assertTrue(refused(odd).contains("\"without\""), "a partition that is no number is not passed over");
        for (String text : List.of("", "[]", "7", "null", "{", "{\"granaryPlan\":1}", "x".repeat(100_001))) {
            Ran ran = capture("--plan", written(text));
            assertTrue(ran.exit() == 1 && ran.complained().trim().endsWith("."), text + ran.complained());
        }
        assertTrue(capture("--plan", folder.resolve("none").toString()).complained().contains("There is no file"));
        assertEquals(2, capture().exit(), "neither a name nor a plan");
        assertEquals("first", Tools.run(folder, "ls drive | grep -v shell").strip());
        assertFalse(Files.exists(folder.resolve("drive/first.partial")));
    }
}
