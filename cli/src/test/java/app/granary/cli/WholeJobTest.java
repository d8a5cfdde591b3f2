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
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The whole job in a bare shell, without an office; what came of it is asked of the system's own tools. */
class WholeJobTest {
    @TempDir
    Path folder;
    private Ran ran;

    private JsonNode run(String... arguments) throws IOException {
        ran = Ran.of(arguments);
        return ran.printed().startsWith("{") ? new ObjectMapper().readTree(ran.printed()) : new ObjectMapper().createObjectNode();
    }

    private String path(String name) {
        return folder.resolve(name).toString();
    }

    private String disk;

    @BeforeEach
    void twoDrivesAndADisk() throws IOException {
        disk = Medium.GPT_EXT4_AND_FAT.make(folder).toString();
        Files.createDirectories(folder.resolve("one"));
        Files.createDirectories(folder.resolve("two"));
    }

    /** Read by QEMU's own client (qemu-utils: qemu-img). */
    @Test
    void anImageIsServedAsADisk() throws Exception {
        run("capture", "--all-blocks", "--name", "DATUM-1", disk, path("one"));
        Thread serving = new Thread(() -> Granary.run("serve-image", "--socket", path("nbd"), path("one/DATUM-1")));
        serving.start();
        try {
            Tools.run(folder, "for i in $(seq 100); do [ -S nbd ] && break; sleep 0.1; done; "
                + "qemu-img compare -f raw -F raw 'nbd+unix:///DATUM-1?socket=nbd' " + disk);
            run("serve-image", "--socket", path("nbd"), path("one/DATUM-1"));
            assertTrue(ran.exit() == 1 && ran.complained().contains("Remove it, or name another path"), ran.complained());
        } finally {
            serving.interrupt();
            serving.join();
        }
        assertFalse(Files.exists(folder.resolve("nbd")));
        for (String[] wrong : new String[][] {{"--port", "0"}, {"--port", "70000"}, {"--port", "9", "--socket", path("x")}, {"--socket",
            path("no/such")}}) {
            List<String> all = new java.util.ArrayList<>(List.of("serve-image", path("one/DATUM-1")));
            all.addAll(List.of(wrong));
            run(all.toArray(String[]::new));
            assertTrue(ran.exit() == 1 && ran.complained().matches("(?s).*(Name|at most).*"), String.join(" ", wrong) + ran.complained());
        }
    }

    /** What is fetched is compared by coreutils' cmp with what went in. */
    @Test
    void aFileIsFoundInAnImageAndFetched() throws IOException {
        run("capture", "--name", "DATUM-1", disk, path("one"));
        JsonNode partitions = run("files", "--json", path("one/DATUM-1")).get("entries");
        assertEquals(List.of("1:", "2:"), partitions.findValuesAsText("name"));
        JsonNode names = run("files", "--json", path("one/DATUM-1"), "2:/").get("entries");
        assertTrue(names.findValuesAsText("name").containsAll(List.of("etc", "numbers", "sh")), names.toString());
        assertEquals(1, run("fetch", "--json", path("one/DATUM-1"), "2:/numbers", path("out")).get("files").asInt());
        Tools.run(folder, "cmp out root/numbers");
        run("fetch", path("one/DATUM-1"), "2:/numbers", path("out"));
        assertTrue(ran.exit() == 1 && ran.complained().contains("already"), ran.complained());
        run("files", path("one/DATUM-1"), "2:/none");
        assertTrue(ran.exit() == 1 && ran.complained().contains("there is no \"none\""), ran.complained());
    }

    /** Digests by coreutils; frames by zstd. */
    @Test
    void anImageIsMadeCopiedHarmedListedAndRepaired() throws IOException {
        assertEquals("readable", run("capture", "--json", "--name", "DATUM-1", disk, path("one")).get("checked").asText());
        assertEquals(path("two/DATUM-1"), run("copy", "--json", path("one/DATUM-1"), path("two")).get("bag").asText());
        Tools.run(folder, "cd two/DATUM-1 && sha256sum -c --quiet manifest-sha256.txt");
        run("copy", path("one/DATUM-1"), path("two"));
        assertTrue(ran.exit() == 1 && ran.complained().contains("exists already; nothing was copied"), ran.complained());

        JsonNode listed = run("list", "--json", path("two"));
        assertEquals("DATUM-1", listed.get("images").get(0).get("name").asText());
        assertEquals("complete", listed.get("images").get(0).get("level").asText());
        assertEquals(Files.size(Path.of(disk)), listed.get("images").get(0).get("diskBytes").asLong());

        Tools.run(folder,
            "f=$(ls two/DATUM-1/data/disk.img*); printf XXXX | dd of=$f bs=1 seek=$(( $(stat -c %s $f) / 2 )) conv=notrunc status=none");
        run("verify", path("two/DATUM-1"));
        assertEquals(1, ran.exit());
        JsonNode repaired = run("repair", "--json", path("two/DATUM-1"), "--from", path("one/DATUM-1"));
        assertTrue(repaired.get("ok").asBoolean() && repaired.get("writtenBytes").asLong() > 0, ran.printed());
        Tools.run(folder, "cd two/DATUM-1 && sha256sum -c --quiet manifest-sha256.txt && zstd -tq data/disk.img.zst*");

        Tools.run(folder, "truncate -s -1 two/DATUM-1/data/disk.img*; mkdir two/DATUM-2.partial");
        run("list", path("two"));
        assertEquals(1, ran.exit(), ran.printed());
        assertTrue(ran.printed().contains("DATUM-2") && ran.printed().contains("unfinished"), ran.printed());
        run("list", path("nowhere"));
        assertTrue(ran.exit() == 1 && ran.complained().contains("is no folder"), ran.complained());
    }

    @Test
    void aSpareHasTheFilesOfItsDiskAndAStickTheBytesOfItsFile() throws IOException {
        assertTrue(run("spare", "--json", "--zero-unused", disk, path("spare.img")).get("compared").asBoolean(), ran.complained());
        assertEquals(Tools.run(folder, "sfdisk -d '" + disk + "' | grep -o 'uuid=.*'"), Tools.run(folder,
            "sfdisk -d spare.img | grep -o 'uuid=.*'"));
        run("spare", disk, path("spare.img"));
        assertTrue(ran.exit() == 1 && ran.complained().contains("exists and is not empty"), ran.complained());

        Tools.run(folder, "head -c 3000000 /dev/urandom > rescue.iso");
        run("write-stick", "--target-size", "8388608", path("rescue.iso"), path("stick.img"));
        assertEquals(0, ran.exit(), ran.complained());
        Tools.run(folder, "cmp -n 3000000 rescue.iso stick.img && test $(stat -c %s stick.img) = 8388608");
        run("write-stick", "--target-size", "1048576", path("rescue.iso"), path("small.img"));
        assertTrue(ran.exit() == 1 && ran.complained().contains("longer than the target") && !Files.exists(folder.resolve("small.img")),
            ran.complained());
    }

    /** The table by sfdisk, the file system by blkid and e2fsck. */
    @Test
    void aDriveIsPrepared() throws IOException {
        JsonNode made = run("prepare", "--json", "--name", "PEG-9", "--file-system", "ext4", "--rescue", "" + (128L << 20), "--target-size",
            "" + (512L << 20), path("drive.img"));
        assertEquals(2, made.get("partitions").size(), ran.complained());
        long start = made.get("partitions").get(1).get("startBytes").asLong();
        assertTrue(Tools.run(folder, "blkid -p -O " + start + " drive.img").contains("LABEL=\"PEG-9\""));
        assertTrue(Tools.run(folder, "sgdisk -v drive.img").contains("No problems found"));
        run("prepare", "--name", "a label too long", "--target-size", "" + (512L << 20), path("never.img"));
        assertTrue(ran.exit() == 1 && ran.complained().contains("Use 1 to 11 letters") && !Files.exists(folder.resolve("never.img")),
            ran.complained());
        run("prepare", "--name", "PEG-9", path("never.img"));
        assertTrue(ran.exit() == 1 && ran.complained().contains("is no length of a disk"), ran.complained());
    }

    @Test
    void partitionsAreLeftOutByNumber() throws IOException {
        long all = run("inspect", "--json", disk).get("toReadBytes").asLong();
        long without = run("inspect", "--json", "--without", "1", disk).get("toReadBytes").asLong();
        assertTrue(without < all, without + " of " + all);
        assertEquals(without, run("inspect", "--json", "--only", "2", disk).get("toReadBytes").asLong());
        assertEquals(0, run("capture", "--json", "--only", "2", "--name", "PART", disk, path("one")).size() == 0 ? 1 : 0, ran.complained());
        for (List<String> wrong : List.of(List.of("--without", "7", "has no partition 7"),
            List.of("--only=1", "--without=2", "Say either which partitions are read"))) {
            run("capture", wrong.get(0), wrong.get(1), "--name", "NEVER", disk, path("one"));
            assertTrue(ran.exit() == 1 && ran.complained().contains(wrong.get(2)), ran.complained());
            assertFalse(Files.exists(folder.resolve("one/NEVER")));
        }
    }
}
