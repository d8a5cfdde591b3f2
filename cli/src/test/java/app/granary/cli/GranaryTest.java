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
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The commands as a script sees them: fields, exit codes, sentences. */
class GranaryTest {
    @TempDir
    Path folder;
    private int exit;
    private String errors;

    private String run(String... arguments) {
        Ran ran = Ran.of(arguments);
        exit = ran.exit();
        errors = ran.complained();
        return ran.printed();
    }

    private JsonNode json(String... arguments) throws IOException {
        String printed = run(arguments);
        assertTrue(!printed.isEmpty(), () -> "exit " + exit + ": " + errors);
        return new ObjectMapper().readTree(printed);
    }

    private static void assertFields(JsonNode node, String... names) {
        Set<String> found = new TreeSet<>();
        node.fieldNames().forEachRemaining(found::add);
        assertTrue(found.containsAll(Set.of(names)), () -> found + " lacks some of " + Set.of(names));
    }

    @Test
    void theDaysWorkFromInspectToRestore() throws IOException {
        String disk = Medium.GPT_EXT4_AND_FAT.make(folder).toString();
        JsonNode inspected = json("inspect", "--json", disk);
        assertFields(inspected, "sizeBytes", "sectorBytes", "scheme", "partitions");
        assertFields(inspected.get("partitions").get(1), "number", "startBytes", "sizeBytes", "type", "name", "fileSystem", "usedBytes",
            "freeBytes", "readWhole", "reason");
        assertEquals("ext4", inspected.get("partitions").get(1).get("fileSystem").asText());
        JsonNode estimate = json("estimate", "--json", disk);
        assertFields(estimate, "usedBytes", "sampledBytes", "lowBytes", "likelyBytes", "highBytes", "basis");
        JsonNode captured = json("capture", "--json", "--name", "night", "--split", "1000000", disk, folder.toString());
        assertFields(captured, "bag", "storedBytes", "rawBytes", "usedBytes", "seconds");
        assertTrue(estimate.get("lowBytes").asLong() <= captured.get("storedBytes").asLong());
        String bag = captured.get("bag").asText();
        for (String level : new String[] {"complete", "sound", "readable"}) {
            JsonNode verified = json("verify", "--json", "--level", level, bag);
            assertEquals(0, exit);
            assertTrue(verified.get("ok").asBoolean());
            assertEquals(level, verified.get("level").asText());
        }
        String back = folder.resolve("back.img").toString();
        assertEquals(Files.size(Path.of(disk)), json("restore", "--json", bag, back).get("targetBytes").asLong());
        assertEquals(json("inspect", "--json", disk).get("partitions"), json("inspect", "--json", back).get("partitions"));
        assertEquals(json("inspect", "--json", disk).get("partitions"), json("inspect", "--json", bag).get("partitions"));
        assertTrue(run("inspect", disk).contains("partition 2"));
        assertTrue(run("estimate", disk).contains("nine times in ten"));
    }

    @Test
    void anImageIsLaidOutForDiscs() throws IOException {
        String disk = Medium.MBR_FAT12.make(folder).toString();
        run("capture", "--name", "x", disk, folder.toString());
        JsonNode laid = json("discs", "--json", "--disc", "bd-r", folder.resolve("x").toString(), folder.toString());
        Path one = Path.of(laid.get("discs").get(0).asText());
        assertEquals("x-disc-1-of-1", one.getFileName().toString());
        Tools.run(one, "grep -q 'Disc 1 of 1' label.txt && cd x && sha256sum -c --quiet manifest-sha256.txt");
        refused("There is no disc \"tape\"", "discs", "--disc", "tape", folder.resolve("x").toString(), folder.toString());
        refused("is there already", "discs", folder.resolve("x").toString(), folder.toString());
    }

    /** Only fdisk can be told a file's sector; the table it makes then counts in 4096 bytes. */
    @Test
    void anMbrOfLargeSectorsIsReadWhenTold() throws IOException {
        Tools.run(folder,
            "truncate -s 60M m.img; printf 'o\\nn\\np\\n1\\n\\n+40M\\nw\\n' | fdisk -b 4096 m.img > said; mkfs.ext4 -q -F -E "
                + "offset=1048576 m.img 39M");
        String disk = folder.resolve("m.img").toString();
        JsonNode partition = json("inspect", "--json", "--sector-bytes", "4096", disk).get("partitions").get(0);
        assertEquals(1 << 20, partition.get("startBytes").asLong());
        assertEquals(40 << 20, partition.get("sizeBytes").asLong());
        assertEquals("ext4", partition.get("fileSystem").asText());
        refused("Sectors of 1000 bytes are not supported", "inspect", "--sector-bytes", "1000", disk);
    }

    @Test
    void exitCodesTellDamagedFromUncheckable() throws IOException {
        String disk = Medium.MBR_FAT12.make(folder).toString();
        run("capture", "--name", "x", disk, folder.toString());
        Tools.run(folder, "truncate -s -5 x/data/disk.img.zst.000");
        JsonNode damaged = json("verify", "--json", folder.resolve("x").toString());
        assertEquals(1, exit);
        assertFalse(damaged.get("ok").asBoolean());
        assertFields(damaged.get("problems").get(0), "part", "offsetBytes", "lengthBytes", "partition", "message");
        run("verify", folder.resolve("nowhere").toString());
        assertEquals(2, exit);
        assertTrue(errors.contains("There is no image folder"), errors);
        run("verify", folder.toString());
        assertEquals(2, exit);
    }

    @Test
    void refusalsAreOneSentenceAndExitNonZero() {
        String disk = Medium.MBR_FAT12.make(folder).toString();
        String here = folder.toString();
        refused("There is no codec \"rar\"", "estimate", "--codec", "rar", disk);
        refused("has no level 30", "estimate", "--level", "30", disk);
        refused("cannot be used on every destination", "capture", "--name", "a b", disk, here);
        refused("may not contain \"..\"", "capture", "--name", "../x", disk, here);
        refused("There is no folder", "capture", "--name", "x", disk, here + "/nowhere");
        refused("There is no folder", "capture", "--name", "x", disk, disk);
        refused("are too small. Use at least 65536 bytes.", "capture", "--name", "x", "--split", "10", disk, here);
        run("capture", "--name", "x", disk, here);
        refused("exists and is not empty; nothing was written", "restore", here + "/x", disk);
        refused("does not apply", "restore", "--overwrite-serial", "S1", here + "/x", here + "/new.img");
        refused("is not among this machine's disks", "restore", "--overwrite-serial", "S1", here + "/x", "/dev/null");
    }

    /** Kill, carry on, encrypted: as in a rescue shell, where there is no page. */
    @Test
    void anInterruptedOrEncryptedCaptureIsDealtWithByOptions() throws IOException {
        String disk = Medium.GPT_EXT4_AND_FAT.make(folder).toString();
        Path word = Files.writeString(folder.resolve("word"), "three plain words\nnot this line\n");
        run("capture", "--name", "secret", "--passphrase-file", word.toString(), disk, folder.toString());
        assertEquals(0, exit, errors);
        run("verify", folder.resolve("secret").toString());
        assertEquals(2, exit);
        assertTrue(errors.contains("is encrypted. Enter the passphrase it was made with."), errors);
        assertEquals("rehearsed",
            json("verify", "--json", "--level", "rehearsed", "--scratch", folder.toString(), "--passphrase-file", word.toString(),
                folder.resolve("secret").toString())
                .get("level").asText());
        run("restore", "--passphrase-file", word.toString(), folder.resolve("secret").toString(), folder.resolve("back.img").toString());
        assertEquals(0, exit, errors);
        refused("There is no file", "verify", "--passphrase-file", "/nowhere", folder.resolve("secret").toString());
        Files.writeString(word, "\n");
        refused("is empty. Put the passphrase there.", "verify", "--passphrase-file", word.toString(), folder.resolve("secret").toString());
        refused("is signed by the person who looked", "verify", "--level", "booted", folder.resolve("secret").toString());
        refused("There is no unfinished capture", "capture", "--carry-on", "--name", "night", disk, folder.toString());
    }

    /** Killed between the folder and the first line of its log: its name was taken for ever. */
    @Test
    void whatACaptureLeftBeforeItsFirstLineIsStartedOver() {
        String disk = Medium.GPT_EXT4_AND_FAT.make(folder).toString();
        Tools.run(folder, "mkdir -p night.partial/data; echo half > night.partial/data/disk.img.zst.000");
        run("capture", "--name", "night", disk, folder.toString());
        assertTrue(exit != 0);
        assertTrue(errors.contains("--start-over"), errors);
        run("capture", "--carry-on", "--name", "night", disk, folder.toString());
        assertTrue(exit != 0);
        assertTrue(errors.contains("Start it over (in a shell: --start-over)"), errors);
        run("capture", "--start-over", "--name", "night", disk, folder.toString());
        assertEquals(0, exit, errors);
        assertTrue(errors.contains("What lay there of night without a name was discarded."), errors);
        run("verify", folder.resolve("night").toString());
        assertEquals(0, exit, errors);
        assertEquals("", Tools.run(folder, "find . -name '*.partial*'"));
    }

    private void refused(String because, String... arguments) {
        run(arguments);
        assertTrue(exit != 0, String.join(" ", arguments));
        assertTrue(errors.contains(because), errors);
        assertEquals(1, errors.strip().lines().count(), errors);
        assertEquals("", Tools.run(folder, "find . -name '*.partial'"));
    }

    /** What holds a device cannot be told there, and cannot tell is no; a raw file needs nothing of it. */
    @Test
    void withoutLsblkNoDeviceIsWritten() {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        String java = ProcessHandle.current().info().command().orElse("java") + " -cp " + System.getProperty("java.class.path")
            + " app.granary.cli.Granary ";
        String said = Tools.run(folder, "mkdir none; export PATH=$PWD/none; " + java + "capture --name x " + disk + " . 2>&1; "
            + java + "restore --overwrite-serial S1 x /dev/null 2>&1 || echo exit $?");
        assertTrue(said.contains("Granary cannot list this system's disks, since lsblk is missing. Install util-linux, and try again."),
            said);
        assertTrue(said.strip().endsWith("exit 1") && said.contains("read back"), said);
    }

    /**
     * Real memory file systems in a mount namespace of their own: one too small from the start, one that fills while the image is written.
     */
    @Test
    void aFullDestinationIsToldBeforeOrDuringTheRun() throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        String java = ProcessHandle.current().info().command().orElse("java") + " -cp " + System.getProperty("java.class.path")
            + " app.granary.cli.";
        Files.writeString(folder.resolve("run.sh"), "mkdir -p small; mount -t tmpfs -o size=3m none small; "
            + java + "Granary capture --codec none --name x " + disk + " small 2>&1 || echo exit $?; ls small; "
            + java + "FillingCapture " + disk + " small 2>&1; ls small");
        String said = Tools.run(folder, "unshare -rm true 2>/dev/null || { echo unsupported; exit 0; }; unshare -rm bash run.sh");
        org.junit.jupiter.api.Assumptions.assumeFalse(said.contains("unsupported"), "no mount namespaces here");
        assertTrue(said.matches(
            "(?s)granary: small has 3.15 MB free, and the image may need 67.1 MB. Nothing was written.*exit 1\\s+NO_ROOM The destination "
                + "small became full "
                + "\\(0 B left\\). No image was made; the disk and the older images are untouched. Make room and carry "
                + "on.*\\s+other\\s+x.partial\\s+x.partial.log\\s+"),
            said);
    }

    /** Real devices, where root may make them: the second member of a mounted set is in no list of mounts. */
    @Test
    void aMemberOfAMountedSetOfDisksIsNeitherReadNorOverwritten() throws IOException {
        if (!Tools.run(folder, "[ $(id -u) = 0 ] && losetup -f > /dev/null 2>&1 && echo yes || echo no").strip().equals("yes")) {
            System.out.println("a member of a mounted set of disks was not tried: this account may make no loop devices here");
            org.junit.jupiter.api.Assumptions.abort("no loop devices here");
        }
        String[] loops = Tools.run(folder, "truncate -s 150M one two; for f in one two; do losetup -f --show $f; done").split("\\s+");
        try {
            Tools.run(folder, "mkfs.btrfs -q -f " + String.join(" ", loops) + " 2>&1; mkdir mnt images; mount " + loops[0] + " mnt");
            for (String each : loops) {
                refused(each + " is in use", "capture", "--name", "x", each, folder.resolve("images").toString());
            }
            assertEquals("", Tools.run(folder, "ls images"));
        } finally {
            Tools.run(folder, "umount mnt 2>&1 || true; losetup -d " + String.join(" ", loops));
        }
    }
}
