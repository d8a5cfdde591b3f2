package app.granary.engine.capture;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.BadStretch;
import app.granary.core.image.ImageName;
import app.granary.engine.bag.Bag;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Medium;
import app.granary.engine.media.MemorySource;
import app.granary.engine.media.Tools;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.SplittableRandom;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Sectors that cannot be read are found exactly, retried, zero-filled and kept in the image for ever. */
class CarefulSourceTest {
    private static final int SECTOR = 512;

    @TempDir
    Path folder;

    /** A disk with sectors that fail so many times before they can be read; -1 for ever. */
    private static final class Failing implements BlockSource {
        private final BlockSource source;
        private final Map<Long, Integer> failures = new HashMap<>();
        private boolean gone;

        Failing(BlockSource source) {
            this.source = source;
        }

        @Override
        public String name() {
            return "disk";
        }

        @Override
        public long sizeBytes() {
            return source.sizeBytes();
        }

        @Override
        public int sectorBytes() {
            return SECTOR;
        }

        @Override
        public synchronized void read(long offset, ByteBuffer into) throws IOException {
            for (long sector = offset / SECTOR; sector * SECTOR < offset + into.remaining(); sector++) {
                int left = failures.getOrDefault(sector, 0);
                if (gone || left != 0) {
                    failures.put(sector, left > 0 ? left - 1 : left);
                    throw new IOException("Input/output error");
                }
            }
            source.read(offset, into);
        }

        @Override
        public void close() {
        }
    }

    @Test
    void exactlyTheSectorsThatFailAreZeros() throws IOException {
        SplittableRandom random = new SplittableRandom(3);
        byte[] content = new byte[400 * SECTOR + 100];
        random.nextBytes(content);
        for (int round = 0; round < 200; round++) {
            Failing failing = new Failing(new MemorySource(content));
            TreeSet<Long> bad = new TreeSet<>();
            for (int i = random.nextInt(6); i > 0; i--) {
                long first = random.nextInt(400);
                for (long sector = first; sector < Math.min(400, first + 1 + random.nextInt(5)); sector++) {
                    bad.add(sector);
                    failing.failures.put(sector, -1);
                }
            }
            int from = random.nextInt(200) * SECTOR + (round % 2 == 0 ? 0 : random.nextInt(SECTOR));
            int length = 1 + random.nextInt(content.length - from);
            byte[] expected = java.util.Arrays.copyOfRange(content, from, from + length);
            long badBytes = 0;
            for (long sector : bad) {
                for (long at = Math.max(from, sector * SECTOR); at < Math.min(from + length, (sector + 1) * SECTOR); at++) {
                    expected[(int) (at - from)] = 0;
                    badBytes++;
                }
            }
            CarefulSource careful = new CarefulSource(failing);
            careful.read(399L * SECTOR + 200, ByteBuffer.allocate(1), new ArrayList<>());
            byte[] found = new byte[length];
            List<BadStretch> told = new ArrayList<>();
            careful.read(from, ByteBuffer.wrap(found), told);
            org.junit.jupiter.api.Assertions.assertArrayEquals(expected, found, "round " + round);
            assertEquals(badBytes, told.stream().mapToLong(BadStretch::sizeBytes).sum());
            for (int i = 1; i < told.size(); i++) {
                assertTrue(told.get(i - 1).endBytes() < told.get(i).startBytes(), "neighbours are joined");
            }
        }
    }

    @Test
    void aSectorThatCanBeReadTheSecondTimeIsNotBad() throws IOException {
        byte[] content = new byte[64 * SECTOR];
        new SplittableRandom(1).nextBytes(content);
        Failing failing = new Failing(new MemorySource(content));
        failing.failures.put(17L, 2);
        byte[] found = new byte[content.length];
        List<BadStretch> told = new ArrayList<>();
        new CarefulSource(failing).read(0, ByteBuffer.wrap(found), told);
        assertEquals(List.of(), told);
        org.junit.jupiter.api.Assertions.assertArrayEquals(content, found);
    }

    @Test
    void aDiskThatWentAwayIsNoDiskOfBadSectors() throws IOException {
        Failing failing = new Failing(new MemorySource(new byte[64 * SECTOR]));
        CarefulSource careful = new CarefulSource(failing);
        careful.read(0, ByteBuffer.allocate(SECTOR));
        failing.gone = true;
        FaultException gone = assertThrows(FaultException.class, () -> careful.read(8 * SECTOR, ByteBuffer.allocate(4 * SECTOR)));
        assertEquals(Fault.Kind.DEVICE_FAILED, gone.fault().kind());
        assertTrue(gone.getMessage().contains("cannot be read any more"), gone.getMessage());
    }

    @Test
    void badSectorsStayInTheImageForEver() throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        Tools.run(folder,
            "debugfs -R 'blocks /numbers' '" + disk + "?offset=" + 41 * (1L << 20) + "' 2>/dev/null | tr ' ' '\\n' | head -1 > block");
        long at = 41 * (1L << 20) + Long.parseLong(Tools.run(folder, "cat block").strip()) * 1024;
        try (RawSource raw = RawSource.open(disk)) {
            Failing failing = new Failing(raw);
            failing.failures.put(at / SECTOR + 1, -1);
            failing.failures.put(at / SECTOR + 2, -1);
            CaptureResult made = Capture.run(failing, DiskSurvey.of(raw, SurveyChoice.USED),
                new CaptureRequest(ImageName.parse("worn"), Codec.ZSTD, 3, OptionalLong.empty(),
                    Passphrase.NONE, new DiskIdentity("m", "s", raw.sizeBytes()), true),
                folder, Clock.systemUTC(), Watch.NONE);
            assertEquals(List.of(new BadStretch(at + SECTOR, 2 * SECTOR)), made.badSectors());
            assertEquals(made.badSectors(), Bag.open(made.bag()).content().description().badSectors());
        }
        assertEquals("0", Tools.run(folder, "cat worn/data/disk.img* | zstd -dc > back; dd if=back bs=512 skip=" + (at / SECTOR + 1)
            + " count=2 2>/dev/null | tr -d '\\0' | wc -c").strip());
    }
}
