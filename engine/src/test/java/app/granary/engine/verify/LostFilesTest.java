package app.granary.engine.verify;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.Extents;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.FilesHit;
import app.granary.core.filesystem.FilesOn;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.capture.Capture;
import app.granary.engine.capture.CaptureRequest;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Clock;
import java.util.List;
import java.util.OptionalLong;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Which files lie on damage, held against what debugfs, ntfscluster and mshowfat say of the same bytes. */
class LostFilesTest {
    private static final long MIB = 1 << 20;

    @TempDir
    Path folder;

    private FilesHit on(Path disk, long start, long size, Extents damaged) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            return FilesOn.find(source, start, size, damaged);
        }
    }

    @ParameterizedTest
    @CsvSource({"GPT_EXT4_1K, 1, 1024", "MBR_EXT2_AND_LOGICAL, 1, 1024", "EXT3_NO_TABLE, 0, 1024", "GPT_EXT4_UNINIT, 1, 1024"})
    void extFilesAreThoseDebugfsNames(Medium medium, long startMib, int block) throws IOException {
        Path disk = medium.make(folder);
        String at = disk + "?offset=" + startMib * MIB;
        long size = Files.size(disk) - startMib * MIB - (startMib > 0 ? 33 * 512 : 0);
        size = medium == Medium.MBR_EXT2_AND_LOGICAL ? 30 * MIB : size;
        for (String file : List.of("/sh", "/numbers", "/etc/passwd")) {
            String[] blocks = Tools.run(folder, "debugfs -R 'blocks " + file + "' '" + at + "' 2>/dev/null").strip().split("\\s+");
            for (String each : List.of(blocks[0], blocks[blocks.length - 1])) {
                long first = Long.parseLong(each) * block;
                FilesHit hit = on(disk, startMib * MIB, size, Extents.range(first, first + 1));
                assertEquals(List.of(file), hit.paths(), medium + " block " + each + ": " + hit.note());
                assertEquals("", hit.note());
            }
        }
    }

    @ParameterizedTest
    @CsvSource({"GPT_NTFS, 1", "MBR_NTFS_1K_CLUSTERS, 1", "NTFS_64K_CLUSTERS, 0"})
    void ntfsFilesAreThoseNtfsclusterNames(Medium medium, long startMib) throws IOException {
        Path disk = medium.make(folder);
        Tools.run(folder, "dd if=" + disk + " of=volume bs=1M skip=" + startMib
            + " 2>/dev/null; seq 1 90000 > many; ntfscp -f volume many many.txt 2>&1");
        long cluster = Long.parseLong(Tools.run(folder, "ntfsinfo -m -f volume | sed -n 's/.*Cluster Size: //p'").strip());
        String runs = Tools
            .run(folder, "ntfsinfo -F many.txt -f -v volume | grep -A40 'attribute $DATA' | grep -A1 Runlist | tail -1 | awk '{print $2}'")
            .strip();
        long first = Long.decode(runs.split("\\s+")[0]) * cluster;
        FilesHit hit = on(folder.resolve("volume"), 0, Files.size(folder.resolve("volume")), Extents.range(first, first + 1));
        assertEquals(List.of("/many.txt"), hit.paths(), hit.note());
        String named = Tools.run(folder, "ntfscluster -f -c " + first / cluster + "-" + first / cluster + " volume");
        assertTrue(named.contains("many.txt"), named);
        FilesHit table = on(folder.resolve("volume"), 0, Files.size(folder.resolve("volume")),
            Extents.range(0, Files.size(folder.resolve("volume"))));
        assertTrue(table.note().contains("table of files") && table.paths().contains("/$MFT") && table.paths().contains("/many.txt"),
            table.toString());
    }

    @ParameterizedTest
    @CsvSource({"MBR_FAT16, 1", "FAT12_FEW_ROOT_ENTRIES, 0", "GPT_FAT32_4K_CLUSTERS, 1"})
    void fatFilesAreThoseMshowfatNames(Medium medium, long startMib) throws IOException {
        Path disk = medium.make(folder);
        Tools.run(folder,
            "dd if=" + disk + " of=volume bs=1M skip=" + startMib
                + " 2>/dev/null; seq 1 20000 > many; export MTOOLS_SKIP_CHECK=1; mmd -i volume ::/maps; "
                + "mcopy -i volume many '::/maps/Ordnance sheet 42 south.txt'");
        String where = Tools.run(folder, "export MTOOLS_SKIP_CHECK=1; mshowfat -i volume '::/maps/Ordnance sheet 42 south.txt'");
        long first = Long.parseLong(where.replaceAll("(?s).*<(\\d+).*", "$1"));
        long clusterBytes = Long.parseLong(
            Tools.run(folder, "export MTOOLS_SKIP_CHECK=1; minfo -i volume | sed -n 's/^cluster size: \\([0-9]*\\).*/\\1/p'").strip())
            * 512;
        String info = Tools.run(folder, "fsck.fat -n -v volume");
        long data = Long.parseLong(info.replaceAll("(?s).*Data area starts at byte (\\d+).*", "$1"));
        long at = data + (first - 2) * clusterBytes;
        FilesHit hit = on(folder.resolve("volume"), 0, Files.size(folder.resolve("volume")), Extents.range(at, at + 1));
        assertEquals(List.of("/maps/Ordnance sheet 42 south.txt"), hit.paths(), hit.note());
    }

    @Test
    void aFlippedByteInAnImageIsTracedToTheFile() throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        Path bag;
        try (RawSource source = RawSource.open(disk)) {
            bag = Capture.run(source, DiskSurvey.of(source, SurveyChoice.USED),
                new CaptureRequest(ImageName.parse("x"), Codec.NONE, 0, OptionalLong.empty(), Passphrase.NONE,
                    new DiskIdentity("m", "s", source.sizeBytes()), true),
                folder, Clock.systemUTC(), Watch.NONE).bag();
        }
        String block = Tools.run(folder, "debugfs -R 'blocks /numbers' '" + disk + "?offset=" + 41 * MIB + "' 2>/dev/null").strip()
            .split("\\s+")[0];
        long at = 41 * MIB + Long.parseLong(block) * 1024;
        Tools.run(bag, "flip data/disk.img.000 " + at);
        CheckOutcome outcome = Verification.run(Bag.open(bag), ProofLevel.READABLE, Watch.NONE);
        assertEquals(at / MIB * MIB, outcome.problems().get(0).diskStartBytes());
        assertTrue(outcome.lost().get(0).partition().contains("system"));
        assertTrue(outcome.lost().get(0).hit().paths().contains("/numbers"), outcome.lost().toString());
    }

    @Test
    void damageAnywhereGivesAnAnswer() throws IOException {
        SplittableRandom random = new SplittableRandom(6);
        for (Medium medium : List.of(Medium.GPT_EXT4_1K, Medium.GPT_NTFS, Medium.MBR_FAT16)) {
            Path disk = medium.make(folder);
            long length = Files.size(disk);
            for (int round = 0; round < 60; round++) {
                int at = (int) MIB + random.nextInt((int) (length - 2 * MIB)) / 4096 * 4096;
                at = round % 2 == 0 ? (int) MIB + random.nextInt(200) * 1024 : at;
                try (FileChannel harmed = FileChannel.open(disk, StandardOpenOption.READ, StandardOpenOption.WRITE)) {
                    byte[] before = new byte[4096];
                    harmed.read(ByteBuffer.wrap(before), at);
                    byte[] changed = before.clone();
                    for (int i = 0; i < 20; i++) {
                        changed[random.nextInt(4096)] = (byte) random.nextInt();
                    }
                    harmed.write(ByteBuffer.wrap(changed), at);
                    FilesHit hit = on(disk, MIB, length - 2 * MIB, Extents.range(at - MIB, at - MIB + 4096));
                    assertTrue(hit.count() >= hit.paths().size());
                    harmed.write(ByteBuffer.wrap(before), at);
                }
            }
        }
    }
}
