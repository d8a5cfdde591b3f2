package app.granary.engine.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.BlockSource;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.bag.Bag;
import app.granary.engine.capture.CarefulSource;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.BlockTarget;
import app.granary.engine.source.DeviceTarget;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** A spare that grew old is made like its disk again by writing only what changed; what it holds then is told by cmp and e2fsck. */
class RefreshTest extends RestoreFixture {
    private static final int START = 42_991_616;

    private RestoreOutcome copy(Path disk, RestoreTarget onto, long bytes, boolean onlyChanges) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            DiskSurvey survey = DiskSurvey.of(source, SurveyChoice.USED);
            RestoreLayout layout = RestoreLayout.of(survey, LayoutTarget.blank(bytes, 512, Firmware.UNKNOWN), LayoutChoice.KEEP);
            return DiskCopy.run(source, survey, layout, onto, new DiskCopy.How(true, true, onlyChanges, Optional.empty()), Watch.NONE);
        }
    }

    /** The disk is lived with for a while: files come, files go, one is changed. */
    private Path lived() {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        Tools.run(folder, "head -c 90M /dev/urandom > spare.img; cp spare.img other.img");
        return disk;
    }

    private void change(Path disk) {
        Tools.run(folder, "dd if=" + disk + " of=part bs=1M iflag=skip_bytes skip=" + START + " status=none; truncate -s 23068672 part; "
            + "head -c 300000 /dev/urandom > news; debugfs -w -R 'write news news' part > said 2>&1; "
            + "dd if=part of=" + disk + " bs=1M oflag=seek_bytes seek=" + START + " conv=notrunc status=none");
    }

    @Test
    void onlyWhatChangedIsWrittenAndTheSpareIsAsIfCopiedAnew() throws IOException {
        Path disk = lived();
        Path spare = folder.resolve("spare.img");
        long bytes = 90 * MIB;
        long first = copy(disk, RestoreTarget.device(spare, 0, 512), bytes, false).writtenBytes();
        RestoreOutcome nothing = copy(disk, RestoreTarget.device(spare, 0, 512), bytes, true);
        assertEquals(0, nothing.differences().size());
        assertTrue(nothing.writtenBytes() < 2 * MIB, "the table at both ends at most: " + nothing.writtenBytes());
        change(disk);
        RestoreOutcome refreshed = copy(disk, RestoreTarget.device(spare, 0, 512), bytes, true);
        assertEquals(0, refreshed.differences().size());
        assertTrue(refreshed.writtenBytes() >= 300_000 && refreshed.writtenBytes() < 300_000 + 3 * MIB, refreshed.writtenBytes() + " of "
            + first);
        copy(disk, RestoreTarget.device(folder.resolve("other.img"), 0, 512), bytes, false);
        assertEquals(files(disk, "ext4", START, 22 * MIB), files(spare, "ext4", START, 22 * MIB));
        Tools.run(folder, "cmp -n " + 64 * MIB + " spare.img other.img");
    }

    /** Of an image likewise, by its chunks. */
    @Test
    void aSpareIsRefreshedFromAnImage() throws IOException {
        Path disk = lived();
        Bag old = capture(disk, "old");
        Path spare = folder.resolve("spare.img");
        long bytes = 90 * MIB;
        restore(old, request(old, bytes, LayoutChoice.KEEP).zeroing(true), RestoreTarget.device(spare, 0, 512));
        change(disk);
        Bag fresh = capture(disk, "fresh");
        RestoreRequest plain = request(fresh, bytes, LayoutChoice.KEEP).zeroing(true);
        RestoreOutcome refreshed = Restore.run(fresh, fresh.content(), new RestoreRequest(plain.survey(), plain.layout(), true, true, true,
            false, Optional.empty(), false, true, Optional.empty()), RestoreTarget.device(spare, 0, 512), Watch.NONE);
        assertEquals(0, refreshed.differences().size());
        assertTrue(refreshed.writtenBytes() < 300_000 + 3 * MIB, "" + refreshed.writtenBytes());
        restore(fresh, plain, RestoreTarget.device(folder.resolve("other.img"), 0, 512));
        Tools.run(folder, "cmp -n " + 64 * MIB + " spare.img other.img");
    }

    /** What a failing disk does not give any more is kept on its spare as it was: zeros would take the last there is of it. */
    @Test
    void whatTheDiskDoesNotGiveAnyMoreStaysOnTheSpare() throws IOException {
        Path disk = lived();
        Path spare = folder.resolve("spare.img");
        copy(disk, RestoreTarget.device(spare, 0, 512), 90 * MIB, false);
        Tools.run(folder, "cp spare.img before.img");
        change(disk);
        long bad = START + 1024; // the file system's own first block
        try (RawSource source = RawSource.open(disk)) {
            BlockSource failing = new BlockSource() {
                @Override
                public String name() {
                    return "failing";
                }

                @Override
                public long sizeBytes() {
                    return source.sizeBytes();
                }

                @Override
                public int sectorBytes() {
                    return 512;
                }

                @Override
                public void read(long offsetBytes, ByteBuffer into) throws IOException {
                    if (offsetBytes < bad + 512 && offsetBytes + into.remaining() > bad) {
                        throw new IOException("cannot be read");
                    }
                    source.read(offsetBytes, into);
                }
            };
            DiskSurvey survey = DiskSurvey.of(source, SurveyChoice.USED);
            RestoreLayout layout = RestoreLayout.of(survey, LayoutTarget.blank(90 * MIB, 512, Firmware.UNKNOWN), LayoutChoice.KEEP);
            CarefulSource careful = new CarefulSource(failing);
            RestoreOutcome outcome = DiskCopy.run(careful, survey, layout, RestoreTarget.device(spare, 0, 512), new DiskCopy.How(true, true,
                true, Optional.empty()), Watch.NONE);
            assertEquals(List.of(), outcome.differences());
            assertEquals(512, careful.bad().stream().mapToLong(each -> each.sizeBytes()).sum());
        }
        Tools.run(folder, "cmp -i " + bad + " -n 512 before.img spare.img; cmp -i " + (bad + 512) + " -n 1000000 " + disk + " spare.img");
    }

    /** A spare that loses what is written to it is found out, though only that little is read back. */
    @Test
    void aSpareThatDoesNotKeepWhatIsWrittenIsFound() throws IOException {
        Path disk = lived();
        Path spare = folder.resolve("spare.img");
        copy(disk, RestoreTarget.device(spare, 0, 512), 90 * MIB, false);
        change(disk);
        RestoreTarget losing = new RestoreTarget() {
            @Override
            public BlockTarget open() throws IOException {
                return new LosingTarget(DeviceTarget.open(spare, 0));
            }

            @Override
            public BlockSource readBack() throws IOException {
                return RawSource.open(spare);
            }
        };
        RestoreOutcome outcome = copy(disk, losing, 90 * MIB, true);
        assertTrue(outcome.differences().get(0).message().contains("reads back as something else"), outcome.toString());
    }

    private record LosingTarget(BlockTarget target) implements BlockTarget {
        @Override
        public String name() {
            return target.name();
        }

        @Override
        public long sizeBytes() {
            return target.sizeBytes();
        }

        @Override
        public boolean startsAsZeros() {
            return false;
        }

        @Override
        public void write(long offsetBytes, ByteBuffer content) {
            content.position(content.limit());
        }

        @Override
        public void flush() throws IOException {
            target.flush();
        }

        @Override
        public void finish() throws IOException {
            target.finish();
        }

        @Override
        public void close() throws IOException {
            target.close();
        }
    }
}
