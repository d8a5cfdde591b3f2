package app.granary.engine.bag;

import app.granary.core.image.ImageName;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.Extents;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.capture.Capture;
import app.granary.engine.capture.CaptureRequest;
import app.granary.engine.capture.CaptureResult;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.Restore;
import app.granary.engine.sample.SizeSampler;
import app.granary.engine.source.RawSource;
import gov.loc.repository.bagit.reader.BagReader;
import gov.loc.repository.bagit.verify.BagVerifier;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** From a disk to a bag and back, held against sha256sum, the reference BagIt library, zstd, gzip, xz, e2fsck, debugfs and mtools. */
class CaptureRoundTripTest {
    private static final Clock CLOCK = Clock.fixed(Instant.parse("2026-11-24T02:14:00Z"), ZoneOffset.UTC);

    @TempDir
    Path folder;

    static CaptureResult capture(Path disk, Path into, String name, Codec codec, long split, boolean allBlocks) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            DiskSurvey survey = DiskSurvey.of(source, allBlocks ? SurveyChoice.ALL_BLOCKS : SurveyChoice.USED);
            SizeEstimate estimate = SizeSampler.estimate(source, survey, codec, codec.usualLevel(), 1, Watch.NONE);
            CaptureResult result = Capture.run(source, survey, new CaptureRequest(ImageName.parse(name), codec, codec.usualLevel(),
                split == 0 ? OptionalLong.empty() : OptionalLong.of(split), Passphrase.NONE,
                new DiskIdentity("model", "serial", source.sizeBytes()), true), into, CLOCK, Watch.NONE);
            assertEquals(estimate.usedBytes(), result.usedBytes());
            estimate = split == 0 ? estimate : estimate.inParts(split);
            assertTrue(estimate.lowBytes() <= result.storedBytes() && result.storedBytes() <= estimate.highBytes(),
                estimate + " against " + result.storedBytes());
            return result;
        }
    }

    @ParameterizedTest
    @CsvSource({
        "GPT_EXT4_AND_FAT, ZSTD, 0, zstd -dc",
        "GPT_EXT4_AND_FAT, ZSTD, 65536, zstd -dc",
        "GPT_EXT4_AND_FAT, GZIP, 1500000, gzip -dc",
        "MBR_FAT16, XZ, 0, xz -dc",
        "MBR_EXT2_AND_LOGICAL, NONE, 10000000, cat",
        "MBR_EXT2_AND_LOGICAL, ZSTD, 4000001, zstd -dc",
    })
    void standardToolsFindTheSameBytes(Medium medium, Codec codec, long split, String decoder) throws Exception {
        Path disk = medium.make(folder);
        Path bag = capture(disk, folder, "image-1", codec, split, false).bag();
        assertTrue(Tools.run(bag, "sha256sum -c manifest-sha256.txt tagmanifest-sha256.txt").contains("data/image.json: OK"));
        try (BagVerifier verifier = new BagVerifier()) {
            verifier.isValid(new BagReader().read(bag), false); // throws when it is not
        }
        if (split > 0) {
            assertEquals("", Tools.run(bag, "find data -name 'disk.img*' -size +" + split + "c"));
        }
        Tools.run(folder, "cat image-1/data/disk.img* | " + decoder + " > back.img");
        sameInEveryUsedByte(disk, folder.resolve("back.img"));
        assertEquals(Tools.run(folder, "sfdisk -d " + disk + " | grep -v ^device | sed 's/^.*img//'"),
            Tools.run(folder, "sfdisk -d back.img | grep -v ^device | sed 's/^.*img//'"));
        Path restored = folder.resolve("restored.img");
        Restore.toFile(Bag.open(bag), restored, Watch.NONE);
        assertEquals(-1, Files.mismatch(folder.resolve("back.img"), restored));
        assertEquals("", Tools.run(folder, "find . -name '*.partial'"));
    }

    private void sameInEveryUsedByte(Path disk, Path back) throws IOException {
        assertEquals(Files.size(disk), Files.size(back));
        try (RawSource a = RawSource.open(disk); RawSource b = RawSource.open(back)) {
            Extents used = DiskSurvey.of(a, SurveyChoice.USED).toRead();
            for (int i = 0; i < used.count(); i++) {
                for (long at = used.start(i); at < used.end(i); at += 1 << 20) {
                    int length = (int) Math.min(1 << 20, used.end(i) - at);
                    byte[] x = new byte[length];
                    byte[] y = new byte[length];
                    a.read(at, ByteBuffer.wrap(x));
                    b.read(at, ByteBuffer.wrap(y));
                    assertTrue(Arrays.equals(x, y), "differs in the MiB at " + at);
                }
            }
        }
    }

    @Test
    void fileSystemsInTheImageAreCleanAndHoldTheirFiles() throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        capture(disk, folder, "image-1", Codec.ZSTD, 0, false);
        Tools.run(folder, "cat image-1/data/disk.img.zst.* | zstd -dc > back.img");
        long ext = 41 * (1L << 20);
        Tools.run(folder, "e2fsck -fn 'back.img?offset=" + ext + "'");
        for (String file : new String[] {"sh", "numbers", "etc/passwd"}) {
            Tools.run(folder, "debugfs -R 'cat /" + file + "' 'back.img?offset=" + ext + "' 2>/dev/null | cmp - root/" + file);
        }
        Tools.run(folder, "export MTOOLS_SKIP_CHECK=1; mcopy -n -i back.img@@1M ::/numbers fat-numbers; cmp fat-numbers root/numbers");
    }

    @Test
    void everyBlockIsKeptWhenAskedFor() throws IOException {
        Path disk = Medium.MBR_FAT12.make(folder);
        capture(disk, folder, "all", Codec.ZSTD, 0, true);
        Tools.run(folder, "cat all/data/disk.img.zst.* | zstd -dc | cmp - " + disk);
    }

    /** Of a mostly empty disk: stored as it is it takes what is in use; raw that on the drive, and all of it by its length. */
    @Test
    void whatIsNotCompressedTakesWhatIsInUse() throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        long used = capture(disk, folder, "stored", Codec.STORED, 0, false).usedBytes();
        capture(disk, folder, "raw", Codec.NONE, 0, false);
        Tools.run(folder, "cat stored/data/disk.img.zst.* | zstd -dc > out.img; cat raw/data/disk.img.0* | cmp - out.img; zstd -lv "
            + "stored/data/disk.img.zst.000 > said.txt");
        long stored = Long.parseLong(Tools.run(folder, "cat stored/data/disk.img.zst.* | wc -c").strip());
        assertTrue(stored < used + 200_000, stored + " stored of " + used);
        long kilobytes = Long.parseLong(Tools.run(folder, "du -k raw/data/disk.img.0* | cut -f1 | paste -sd+ | bc").strip());
        assertEquals(Files.size(disk), Long.parseLong(Tools.run(folder, "cat raw/data/disk.img.0* | wc -c").strip()));
        assertTrue(kilobytes * 1024 < Files.size(disk) / 2, kilobytes + " KiB on the drive");
    }

    @Test
    void aDiskThatEndsWithinAChunkAndABlankOneComeBackWhole() throws IOException {
        Tools.run(folder,
            "truncate -s 3145728 blank.img; cp blank.img odd.img; truncate -s 3146240 odd.img; printf 'label: dos\\n' | sfdisk -q odd.img");
        for (String name : new String[] {"blank", "odd"}) {
            for (Codec codec : Codec.values()) {
                Path bag = capture(folder.resolve(name + ".img"), folder, name + codec.word(), codec, 0, false).bag();
                Restore.toFile(Bag.open(bag), folder.resolve(bag.getFileName() + ".back"), Watch.NONE);
                assertEquals(-1, Files.mismatch(folder.resolve(name + ".img"), folder.resolve(bag.getFileName() + ".back")), name + codec);
            }
        }
    }
}
