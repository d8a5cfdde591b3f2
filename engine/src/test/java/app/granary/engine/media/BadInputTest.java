package app.granary.engine.media;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTimeoutPreemptively;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.core.image.ImageName;
import app.granary.engine.capture.Capture;
import app.granary.engine.capture.CaptureRequest;
import app.granary.engine.codec.Codec;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Clock;
import java.time.Duration;
import java.util.OptionalLong;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is no disk, or a damaged one, gets one sentence; nothing hangs, nothing unforeseen is thrown. */
class BadInputTest {
    @TempDir
    Path folder;

    private String refusal(Path disk) {
        FaultException fault = assertThrows(FaultException.class, () -> {
            try (RawSource source = RawSource.open(disk)) {
                DiskSurvey.of(source, SurveyChoice.USED);
            }
        });
        return fault.getMessage();
    }

    @Test
    void whatIsNoDiskIsRefusedWithASentence() {
        Tools.run(folder, "echo hello > text; printf '%4096s' noise > noise; mkdir dir; truncate -s 0 empty");
        assertTrue(refusal(folder.resolve("text")).contains("is no disk: it is 6 bytes long"));
        assertTrue(refusal(folder.resolve("empty")).contains("is no disk: it is 0 bytes long"));
        assertTrue(refusal(folder.resolve("noise")).contains("holds no partition table and no file system Granary knows"));
        assertTrue(refusal(folder.resolve("dir")).contains("is a folder, not a disk"));
        assertTrue(refusal(folder.resolve("nowhere")).contains("There is no "));
    }

    @Test
    void aDiskCutShortIsRefused() {
        Path gpt = Medium.GPT_EXT4_1K.make(folder);
        Path mbr = Medium.MBR_FAT16.make(folder);
        Tools.run(folder, "truncate -s 20M " + gpt + " " + mbr);
        assertTrue(refusal(gpt).contains("the file is cut short"));
        assertTrue(refusal(mbr).contains("the file is cut short"));
    }

    @Test
    void aFileSystemThatCannotBeTrustedIsReadWholeWithItsReason() throws IOException {
        long part = 1 << 20;
        assertEquals("the checksum of its superblock is wrong", reason(Medium.GPT_EXT4_1K, part + 1024 + 4, 0xFF));
        assertEquals("the checksum of the descriptor of group 0 is wrong", reason(Medium.GPT_EXT4_1K, part + 2048, 0xFF));
        assertTrue(reason(Medium.MBR_EXT2_AND_LOGICAL, part + 1024 + 7, 0x7F).startsWith("its block map runs past its partition: "));
        assertEquals("it is marked as not cleanly unmounted", reason(Medium.MBR_EXT2_AND_LOGICAL, part + 1024 + 0x3A, 1));
        assertTrue(reason(Medium.MBR_EXT2_AND_LOGICAL, part + 2048 + 3, 0x7F).contains("past the file system's end"));
        assertTrue(
            reason(Medium.MBR_EXT2_AND_LOGICAL, part + 2048 + 0xC, 0x55).matches("group 0 counts \\d+ free blocks, its bitmap shows \\d+"));
        assertEquals("it is marked as not cleanly closed", reason(Medium.MBR_FAT16, part + 37, 1));
        assertTrue(reason(Medium.MBR_FAT16, part + 32 + 3, 0x10).startsWith("the file system says it is "));
        assertTrue(reason(Medium.MBR_FAT16, part + 22, 0xF0).startsWith("its allocation table runs past its end"));
        assertEquals("it is marked as dirty: it was not ejected, or not shut down", reason(Medium.GPT_EXFAT_4K_CLUSTERS, part + 106, 2));
        assertEquals("the checksum of its boot region is wrong", reason(Medium.GPT_EXFAT_4K_CLUSTERS, part + 100, 1));
        assertEquals("its boot sector gives an impossible cluster size", reason(Medium.GPT_EXFAT_4K_CLUSTERS, part + 109, 0x40));
        assertEquals("its boot sector gives an impossible cluster size", reason(Medium.GPT_NTFS, part + 13, 0x01));
        assertEquals("record 6 of its file table was not written whole", reason(Medium.GPT_NTFS, part + 4 * 4096 + 6 * 1024 + 510, 0x01));
    }

    /** Why partition 1 is read whole after one byte of the disk was changed by exclusive or. */
    private String reason(Medium medium, long at, int change) throws IOException {
        Path disk = medium.make(folder);
        try (FileChannel channel = FileChannel.open(disk, StandardOpenOption.READ, StandardOpenOption.WRITE)) {
            ByteBuffer one = ByteBuffer.allocate(1);
            channel.read(one, at);
            one.put(0, (byte) (one.get(0) ^ change)).rewind();
            channel.write(one, at);
        }
        try (RawSource source = RawSource.open(disk)) {
            SurveyedPartition first = DiskSurvey.of(source, SurveyChoice.USED).partitions().get(0);
            assertTrue(first.readWhole());
            assertEquals(first.partition().sizeBytes(), first.toRead().totalBytes());
            return first.reason();
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "a/b", "..", "a..b", "with space", "tab\there", "\u0001", "-dash", ".hidden", "end.", "x.partial", "NUL",
        "con.txt", "ü"})
    void namesThatSomeSystemRefusesAreRefused(String name) {
        String message = assertThrows(FaultException.class, () -> ImageName.parse(name)).getMessage();
        assertTrue(message.endsWith("Use letters, digits, dot, hyphen and underscore, at most 100, beginning with a letter or digit."),
            message);
    }

    @Test
    void aStoppedCaptureLeavesNothingAndATakenNameIsKept() throws IOException {
        Path disk = Medium.MBR_FAT16.make(folder);
        Watch stops = new Watch() {
            @Override
            public void advanced(Progress progress) {
            }

            @Override
            public boolean stopRequested() {
                return true;
            }
        };
        assertEquals(Fault.Kind.STOPPED, assertThrows(FaultException.class, () -> capture(disk, "image", stops)).fault().kind());
        assertEquals("", Tools.run(folder, "ls | grep image || true"));
        Files.createDirectory(folder.resolve("image"));
        assertTrue(assertThrows(FaultException.class, () -> capture(disk, "image", Watch.NONE)).getMessage()
            .contains("exists already; nothing was written"));
    }

    private void capture(Path disk, String name, Watch watch) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            Capture.run(source, DiskSurvey.of(source, SurveyChoice.USED),
                new CaptureRequest(ImageName.parse(name), Codec.ZSTD, 3, OptionalLong.empty(), app.granary.engine.openpgp.Passphrase.NONE,
                    new DiskIdentity("", "", source.sizeBytes()), true),
                folder, Clock.systemUTC(), watch);
        }
    }

    /**
     * 3 600 disks with bytes changed where tables, superblocks, file tables, directories and maps lie: an answer or a sentence for each, in
     * bounded time and memory; together more than ten million bytes of them are read.
     */
    @Test
    void changedTablesAndSuperblocksNeverHangNorThrowTheUnforeseen() {
        Medium[] media = {Medium.GPT_EXT4_AND_FAT, Medium.MBR_EXT2_AND_LOGICAL, Medium.MBR_FAT12, Medium.GPT_EXT4_META_BG,
            Medium.GPT_EXT4_BIGALLOC,
            Medium.GPT_NTFS, Medium.MBR_NTFS_1K_CLUSTERS, Medium.GPT_EXFAT_4K_CLUSTERS, Medium.GPT_EXFAT_512_CLUSTERS};
        Random random = new Random(5);
        long[] read = {0};
        for (Medium medium : media) {
            Path disk = medium.make(folder);
            for (int round = 0; round < 400; round++) {
                long seed = random.nextLong();
                assertTimeoutPreemptively(Duration.ofSeconds(20), () -> read[0] += fuzz(disk, new Random(seed)),
                    () -> medium + " with seed " + seed);
            }
        }
        assertTrue(read[0] > 10_000_000, read[0] + " bytes of changed media were read");
    }

    private static long fuzz(Path disk, Random random) throws IOException {
        long[] places = {446, 512, 1024, 1 << 20, (1 << 20) + 1024, (1 << 20) + 2048, (41L << 20) + 1024, (41L << 20) + 4096, 32L << 20};
        try (RawSource source = RawSource.open(disk)) {
            ChangedSource changed = new ChangedSource(source);
            for (int i = random.nextInt(6); i >= 0; i--) {
                // of NTFS and exFAT the file table, its root directory and the maps lie within the first quarter of a mebibyte
                long at = random.nextBoolean() ? (1 << 20) + random.nextInt(1 << 18)
                    : places[random.nextInt(places.length)] + random.nextInt(random.nextBoolean() ? 66 : 512);
                changed.change(at, (byte) (random.nextBoolean() ? random.nextInt() : random.nextBoolean() ? 0xFF : 0));
            }
            try {
                DiskSurvey survey = DiskSurvey.of(changed, SurveyChoice.USED);
                assertTrue(survey.usedBytes() <= source.sizeBytes());
            } catch (FaultException refused) {
                assertTrue(refused.getMessage().length() > 20 && refused.getMessage().endsWith("."), refused.getMessage());
            }
            return changed.readBytes();
        }
    }
}
