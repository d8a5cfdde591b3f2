package app.granary.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Restoring from a rescue shell onto targets of other sizes; sgdisk and sfdisk say what came of it. */
class RestoreCommandTest {
    @TempDir
    Path folder;
    private String said;
    private int exit;

    private JsonNode run(String... arguments) throws IOException {
        Ran ran = Ran.of(arguments);
        exit = ran.exit();
        said = ran.printed() + ran.complained();
        return said.startsWith("{") ? new ObjectMapper().readTree(said) : new ObjectMapper().createObjectNode();
    }

    private String bag() throws IOException {
        Path disk = Medium.GPT_FIRMWARE_RESERVED_MAIN_RECOVERY.make(folder);
        run("capture", "--name", "bag", disk.toString(), folder.toString());
        return folder.resolve("bag").toString();
    }

    private String path(String name) {
        return folder.resolve(name).toString();
    }

    @Test
    void aLargerTargetIsLaidOutAsAsked() throws IOException {
        String bag = bag();
        long bytes = 400L << 20;
        assertTrue(
            run("restore", "--json", "--target-size", "" + bytes, bag, path("keep.img")).get("unallocatedBytes").asLong() > 130L << 20);
        JsonNode grown = run("restore", "--json", "--target-size", "" + bytes, "--layout", "grow", bag, path("grow.img"));
        assertEquals(0, grown.get("unallocatedBytes").asLong());
        assertTrue(grown.get("compared").asBoolean() && grown.get("differences").asInt() == 0);
        assertTrue(Tools.run(folder, "sgdisk -v grow.img").contains("No problems found"));
        run("restore", "--target-size", "" + bytes, "--size", "3=" + (200L << 20), bag, path("hand.img"));
        assertTrue(said.contains("compared") && said.contains("yes, and equal"), said);
        assertTrue(said.contains("then") && said.contains("ntfsresize /dev/sdX3"), said);
        assertEquals("" + (200L << 20) / 512,
            Tools.run(folder, "sfdisk -d hand.img | sed -n 's/.*img3.*size= *\\([0-9]*\\),.*/\\1/p'").strip());
        run("restore", "--target-size", "" + bytes, "--layout", "grow", "--stay", bag, path("stay.img"));
        assertTrue(said.contains("blocks") && said.contains("Let it move to the end"), said);
        assertFalse(run("restore", "--json", "--no-compare", bag, path("plain.img")).get("compared").asBoolean());
    }

    @Test
    void onlySomePartitions() throws IOException {
        run("restore", "--only", "1,2", bag(), path("boot.img"));
        assertEquals(0, exit, said);
        assertEquals("2", Tools.run(folder, "sfdisk -d boot.img | grep -c start=").strip());
    }

    @Test
    void refusalsLeaveNothingBehind() throws IOException {
        String bag = bag();
        for (String[] wrong : new String[][] {{"--target-size", "" + (200L << 20), "in a shell: --shrink"},
            {"--target-size", "" + (10L << 20), "Use a target of at least that size"}, {"--target-size", "1000", "is no length of a disk"},
            {"--layout", "best", "Choose keep, grow or share"}, {"--only", "9", "No partition is chosen"},
            {"--overwrite-serial", "x", "is no device"}}) {
            run("restore", wrong[0], wrong[1], bag, path("never.img"));
            assertTrue(exit != 0, wrong[1]);
            assertTrue(said.contains(wrong[2]), said);
            assertFalse(Files.exists(folder.resolve("never.img")) || Files.exists(folder.resolve("never.img.partial")));
        }
    }

    @Test
    void aSmallerTargetIsWrittenWhereShrinkingIsAskedFor() throws IOException {
        String bag = bag();
        Files.createDirectories(folder.resolve("scratch"));
        run("restore", "--shrink", "--scratch", path("nowhere"), "--target-size", "" + (200L << 20), bag, path("small.img"));
        assertTrue(exit != 0 && said.contains("nowhere is no folder"), said);
        JsonNode done = run("restore", "--json", "--shrink", "--scratch", path("scratch"), "--target-size", "" + (200L << 20), bag,
            path("small.img"));
        assertTrue(done.get("lengths").get(0).asText().contains("was made smaller, and is sound."), said);
        assertEquals(200L << 20, Files.size(folder.resolve("small.img")));
        assertEquals("", Tools.run(folder, "ls scratch"));
    }

    @Test
    void damageIsPassedOverOnlyWhenItIsAccepted() throws IOException {
        String bag = bag();
        Tools.run(folder,
            "f=$(ls bag/data/disk.img*); printf XXXX | dd of=$f bs=1 seek=$(( $(stat -c %s $f) / 2 )) conv=notrunc status=none");
        run("restore", bag, path("never.img"));
        assertTrue(exit != 0 && said.contains("The restore was not completed"), said);
        assertFalse(Files.exists(folder.resolve("never.img")));
        JsonNode accepted = run("restore", "--json", "--accept-damage", bag, path("some.img"));
        assertEquals(1, accepted.get("passedOver").asInt(), said);
    }
}
