package app.granary.engine.elsewhere;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTimeoutPreemptively;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionTables;
import app.granary.core.fault.FaultException;
import app.granary.core.image.DiskInside;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Sets are made by dd, sfdisk, sgdisk, fdisk, gzip, zstd and split, and held against the disk they were made of. */
class ShellSetTest {
    /** As parted prints it in sectors (its manual, "print" and "unit"; the form from memory, since it is not installed here). */
    private static final String PARTED = "(echo 'Model: made up (scsi)'; echo \"Disk /dev/sdb: $(($(stat -c %s disk) / 512))s\"; "
        + "echo 'Sector size (logical/physical): 512B/512B'; echo 'Partition Table: gpt'; echo; "
        + "echo 'Number  Start  End  Size  File system'; "
        + "sfdisk -d disk | sed -n 's/^disk\\([0-9]*\\) : start= *\\([0-9]*\\), size= *\\([0-9]*\\),.*/ \\1 \\2s 0s \\3s  "
        + "ext4/p') > set/sdb.txt";

    @TempDir
    Path root;

    private List<ElsewhereImage> scan() throws IOException {
        return ElsewhereScan.in(root, "set", Watch.NONE).images();
    }

    private Path disk(Medium medium) throws IOException {
        Path disk = Files.move(medium.make(Files.createDirectories(root.resolve("made"))), root.resolve("disk"));
        Files.createDirectories(root.resolve("set"));
        return disk;
    }

    /** Cuts each partition out by what sfdisk says of it. */
    private void cut(String how) {
        Tools.run(root, "sfdisk -d disk | grep start= | grep -v 'type=[5f],\\|type=[5f]$' | while IFS= read -r l; do "
            + "n=$(echo $l | sed 's/^disk\\([0-9]*\\).*/\\1/'); s=$(echo $l | sed 's/.*start= *\\([0-9]*\\),.*/\\1/'); "
            + "c=$(echo $l | sed 's/.*size= *\\([0-9]*\\)[^0-9]*.*/\\1/'); dd if=disk bs=512 skip=$s count=$c status=none | " + how
                + "; done");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '!', value = {
        "GPT_EXT4_AND_FAT ! sfdisk -d disk > set/sdb.sfdisk ! cat > set/sdb$n.img",
        "GPT_EXT4_AND_FAT ! sfdisk -J disk > set/sdb.json; dd if=disk of=set/sdb.start bs=1M count=1 status=none ! gzip -1 > "
            + "set/sdb$n.img.gz",
        "GPT_EXT4_AND_FAT ! sgdisk --backup=set/sdb.gpt disk ! zstd -q -1 > set/sdb-part$n.zst",
        "GPT_EXT4_AND_FAT ! fdisk -l disk > set/listing.txt ! split -b 5M - set/p$n.img.",
        "MBR_EXT2_AND_LOGICAL ! sfdisk -d disk > set/table; dd if=disk of=set/boot.bin bs=512 count=1 status=none ! gzip -1 | "
            + "split -b 700k -d - set/part$n.gz.",
        "MBR_FAT_BOOT_EXT4_LOGICAL ! fdisk -l disk > set/fdisk; dd if=disk of=set/mbr bs=512 count=1 status=none ! cat > set/sda$n"})
    void aSetIsOneImageOfItsDisk(Medium medium, String table, String how) throws IOException {
        Path disk = disk(medium);
        Tools.run(root, table);
        cut(how);
        List<ElsewhereImage> found = scan();
        assertEquals(1, found.size(), found.toString());
        ElsewhereImage set = found.get(0);
        assertEquals("", set.trouble());
        assertEquals(ElsewhereImage.Kind.SET, set.kind());
        assertEquals(List.of(), set.lacking());
        assertTrue(ElsewhereCheck.run(root, set, ProofLevel.READABLE, Watch.NONE).outcome().ok());
        Path scratch = Files.createDirectories(root.resolve("scratch"));
        try (RawSource was = RawSource.open(disk); ElsewhereDisk now = ElsewhereDisk.open(root, set, scratch, Watch.NONE)) {
            PartitionTable before = PartitionTables.read(was);
            List<Partition> told = PartitionTables.read(now).partitions();
            assertEquals(before.partitions().stream().map(Partition::startBytes).toList(),
                told.stream().map(Partition::startBytes).toList());
            assertEquals(DiskInside.idOf(before), DiskInside.idOf(PartitionTables.read(now)));
            if (!table.contains("fdisk -l")) {
                assertEquals(before.partitions(), told);
            }
            for (Partition each : before.partitions().stream().filter(one -> !one.container()).toList()) {
                ByteBuffer one = ByteBuffer.allocate((int) each.sizeBytes());
                ByteBuffer other = ByteBuffer.allocate((int) each.sizeBytes());
                was.read(each.startBytes(), one);
                now.read(each.startBytes(), other);
                assertArrayEquals(one.array(), other.array(), each.label());
            }
        }
        assertEquals(List.of(), Files.list(scratch).toList());
    }

    @Test
    void partedsListingIsReadAndWhatIsMissingIsTold() throws IOException {
        disk(Medium.GPT_EXT4_AND_FAT);
        Tools.run(root, PARTED);
        cut("cat > set/sdb$n.img");
        Tools.run(root, "rm set/sdb1.img");
        ElsewhereImage set = scan().get(0);
        assertEquals("", set.trouble());
        assertEquals(List.of(1), set.lacking().stream().map(Partition::number).toList());
        assertTrue(set.inside().remark().contains("not there: partition 1"), set.inside().remark());
        assertEquals(Files.size(root.resolve("disk")), set.inside().sizeBytes().orElseThrow());
    }

    @Test
    void aTableOfAnotherDiskIsSaid() throws IOException {
        disk(Medium.GPT_EXT4_AND_FAT);
        cut("cat > set/sdb$n.img");
        Tools.run(root, "truncate -s 90M other; printf 'label: gpt\\nsize=9M\\nsize=31M\\n' | sfdisk -q other; sfdisk -d other > set/t");
        assertTrue(scan().get(0).trouble().contains("the table is of another disk"), scan().get(0).trouble());
        Tools.run(root, "rm set/*; sfdisk -d disk > set/t");
        cut("(head -c 9000000 /dev/zero; cat) | gzip -1 > set/sdb$n.img.gz");
        ElsewhereImage set = scan().get(0);
        assertEquals("", set.trouble(), "that is told only once it is unpacked");
        ElsewhereCheck.Result result = ElsewhereCheck.run(root, set, ProofLevel.READABLE, Watch.NONE);
        assertTrue(result.outcome().problems().get(0).message().contains("holds more than the "), result.outcome().toString());
        assertThrows(FaultException.class, () -> ElsewhereDisk.open(root, set, root, Watch.NONE));
    }

    /** What is found in a folder may be anything: no bytes make it fail, or claim a partition that has no place. */
    @RepeatedTest(10)
    void anyBytesAreNoTableOrASoundOne(RepetitionInfo seed) throws IOException {
        disk(Medium.GPT_EXT4_AND_FAT);
        Tools.run(root, "sfdisk -d disk > set/a; sfdisk -J disk > set/b; sgdisk --backup=set/c disk; fdisk -l disk > set/d");
        Random random = new Random(seed.getCurrentRepetition());
        for (String name : List.of("a", "b", "c", "d")) {
            byte[] sound = Files.readAllBytes(root.resolve("set/" + name));
            assertTrue(TableDump.of(name, sound).isPresent(), name);
            for (int n = 0; n < 300; n++) {
                byte[] bytes = sound.clone();
                for (int i = random.nextInt(20); i >= 0; i--) {
                    bytes[random.nextInt(bytes.length)] = (byte) random.nextInt(256);
                }
                TableDump.of(name, java.util.Arrays.copyOf(bytes, random.nextInt(bytes.length + 1))).ifPresent(inside ->
                    assertTrue(inside.partitions().stream().allMatch(each -> each.startBytes() > 0 && each.sizeBytes() > 0)));
            }
        }
    }

    /** Lines that patterns would go over again and again, in a file like any other on a drive. */
    @Test
    void aFileMadeToHoldItUpDoesNot() {
        String spaces = "label: gpt\nsda1 " + " ".repeat(60_000) + "x\n";
        String digits = "Disk label type: gpt\n" + "1".repeat(60_000) + "\n";
        assertTimeoutPreemptively(Duration.ofSeconds(5), () -> {
            for (String text : List.of(spaces, digits, "\n".repeat(60_000), "{".repeat(60_000))) {
                assertTrue(TableDump.of("x", text.getBytes(StandardCharsets.UTF_8)).isEmpty());
            }
        });
    }

    @Test
    void virtualDisksAndFilesNobodyKnowsAreTakenOnTooEachWithItsWord() throws IOException {
        disk(Medium.GPT_EXT4_AND_FAT);
        Tools.run(root, "qemu-img convert -q -f raw -O qcow2 disk set/old.qcow2; head -c 70000 /dev/urandom > set/old.bin");
        ElsewhereImage virtual = scan().get(0);
        assertEquals(1, scan().size());
        assertEquals(ElsewhereImage.Kind.VIRTUAL, virtual.kind());
        assertEquals(2, virtual.inside().partitions().size());
        assertTrue(ElsewhereCheck.run(root, virtual, ProofLevel.READABLE, Watch.NONE).outcome().ok());
        ElsewhereImage kept = ElsewhereScan.kept(root, "set", "old.bin");
        assertEquals(ProofLevel.COMPLETE, ElsewhereCheck.run(root, kept, ProofLevel.READABLE, Watch.NONE).outcome().level());
        String digest = Tools.run(root, "sha256sum set/old.bin").substring(0, 64);
        ElsewhereImage known = kept.with(List.of(new ElsewhereFile("old.bin", 70000, digest, "taken")), kept.inside());
        assertEquals(ProofLevel.SOUND, ElsewhereCheck.run(root, known, ProofLevel.READABLE, Watch.NONE).outcome().level());
        Tools.run(root, "printf x | dd of=set/old.bin conv=notrunc status=none");
        assertTrue(!ElsewhereCheck.run(root, known, ProofLevel.SOUND, Watch.NONE).outcome().ok());
        assertThrows(FaultException.class, () -> ElsewhereScan.kept(root, "set", "../disk"));
        assertThrows(FaultException.class, () -> ElsewhereDisk.open(root, kept, root, Watch.NONE));
    }
}
