package app.granary.engine.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertInstanceOf;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.engine.source.BlockTarget;
import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.FileSystem;
import app.granary.core.filesystem.FileSystems;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.rescue.BootImage;
import app.granary.core.target.Preparation;
import app.granary.core.target.Preparation.Scheme;
import app.granary.core.target.Preparation.StoreFileSystem;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Disk to disk, a file onto a stick, a drive made ready: the system's own tools say what came of it. */
class DiskCopyTest {
    private static final long MIB = 1L << 20;

    @TempDir
    Path folder;

    @ParameterizedTest
    @CsvSource({"GPT_EXT4_AND_FAT, 64, KEEP", "GPT_EXT4_AND_FAT, 240, GROW", "MBR_EXT2_AND_LOGICAL, 200, SHARE"})
    void aSpareHoldsTheSameFiles(Medium medium, long mib, LayoutChoice.Strategy strategy) throws IOException {
        Path disk = medium.make(folder);
        Tools.run(folder, "head -c " + mib * MIB + " /dev/urandom > spare.img");
        RestoreLayout layout;
        try (RawSource source = RawSource.open(disk)) {
            DiskSurvey survey = DiskSurvey.of(source, SurveyChoice.USED);
            layout = RestoreLayout.of(survey, LayoutTarget.blank(mib * MIB, 512, Firmware.UNKNOWN), LayoutChoice.of(strategy));
            RestoreOutcome outcome = DiskCopy.run(source, survey, layout, RestoreTarget.device(folder.resolve("spare.img"), mib * MIB, 512),
                DiskCopy.How.of(false, true), Watch.NONE);
            assertEquals(List.of(), outcome.differences());
            assertTrue(outcome.writtenBytes() < 100 * MIB, "only what is in use is written");
        }
        for (var each : layout.placed()) {
            if (medium.fileSystem(each.from().number()).startsWith("ext")) {
                Tools.run(folder, "dd if=spare.img of=part bs=1M iflag=skip_bytes,count_bytes skip=" + each.to().startBytes() + " count="
                    + each.to().sizeBytes() + " status=none; e2fsck -fn part");
            }
        }
        Tools.run(folder, "sfdisk --verify spare.img");
    }

    /** A copy of one partition cleared the last MiB of a target whose other partitions were to stay. */
    @Test
    void whatStaysAtTheEndOfATargetIsNotCleared() throws IOException {
        Path disk = Medium.MBR_EXT2_AND_LOGICAL.make(folder);
        long bytes = Files.size(disk);
        long end = bytes - MIB / 2;
        Tools.run(folder, "cp " + disk + " spare.img; head -c " + MIB / 2 + " /dev/urandom | dd of=spare.img bs=64K oflag=seek_bytes seek="
            + end + " conv=notrunc status=none; cp spare.img before.img");
        try (RawSource source = RawSource.open(disk)) {
            DiskSurvey survey = DiskSurvey.of(source, SurveyChoice.USED);
            LayoutTarget target = new LayoutTarget(bytes, 512, Firmware.UNKNOWN, survey.table(), RestoreLayout.ALIGN);
            RestoreLayout layout = RestoreLayout.of(survey, target, LayoutChoice.KEEP.only(Set.of(1), true));
            assertTrue(layout.fits() && layout.othersStay(), layout.refusals().toString());
            assertEquals(List.of(), DiskCopy.run(source, survey, layout, RestoreTarget.device(folder.resolve("spare.img"), bytes, 512),
                DiskCopy.How.of(false, true), Watch.NONE).differences());
        }
        assertEquals("", Tools.run(folder, "cmp -i " + end + " before.img spare.img"));
    }

    @Test
    void aFileIsWrittenOntoAStickAsItIsAndWhatWasThereIsForgotten() throws IOException {
        Tools.run(folder,
            "mkdir in; seq 1 100000 > in/numbers; truncate -s 20M stick.img; sgdisk -n 1:0:0 stick.img; cp stick.img old.img");
        Tools.run(folder,
            "truncate -s 6M boot.img; printf 'label: dos\\ntype=c,bootable\\n' | sfdisk -q boot.img; printf '\\xFA\\xF4' | dd "
                + "of=boot.img conv=notrunc status=none");
        try (RawSource source = RawSource.open(folder.resolve("boot.img"))) {
            BootImage image = BootImage.read(source);
            assertEquals(new BootImage(BootImage.Kind.DISK, "", 6 * MIB, List.of("BIOS"), ""), image);
            assertEquals(List.of(), DiskCopy
                .bytes(source, 20 * MIB, RestoreTarget.device(folder.resolve("stick.img"), 0, 512), true, Watch.NONE).differences());
        }
        assertEquals("", Tools.run(folder, "cmp -n $((6 * 1048576)) boot.img stick.img"));
        assertTrue(Tools.run(folder, "sgdisk -p stick.img 2>&1 || true").contains("MBR only")
            || Tools.run(folder, "sfdisk -d stick.img").contains("label: dos"));
        try (RawSource source = RawSource.open(folder.resolve("stick.img"))) {
            assertThrows(FaultException.class,
                () -> DiskCopy.bytes(source, MIB, RestoreTarget.device(folder.resolve("boot.img"), 0, 512), true, Watch.NONE));
        }
    }

    @Test
    void anIsoIsToldFromWhatIsNone() throws IOException {
        Tools.run(folder, "mkdir in; seq 1 200000 > in/numbers; truncate -s 2M plain; printf 'hello' > short");
        Tools.run(folder,
            "dd if=/dev/zero of=some.iso bs=2048 count=100 status=none; (printf '\\x01CD001\\x01\\x00'; printf '%32s' ''; printf '%-32s' "
                + "'LARCH_RESCUE'; printf '\\0%.0s' 1 2 3 4 5 6 7 8; printf '\\x64\\0\\0\\0\\0\\0\\0\\x64') | dd of=some.iso bs=1 "
                + "seek=32768 conv=notrunc status=none;"
                + "printf '\\0\\x08\\x08\\0' | dd of=some.iso bs=1 seek=$((32768 + 128)) conv=notrunc status=none");
        assertTrue(Tools.run(folder, "blkid -p some.iso || true").contains("LARCH_RESCUE"), "blkid reads the same name");
        assertEquals("LARCH_RESCUE", read("some.iso").label());
        assertTrue(read("some.iso").refusal().contains("starts from a disc, not from a stick"));
        Tools.run(folder,
            "printf '\\xFA\\xF4' | dd of=some.iso conv=notrunc status=none; printf '\\x55\\xAA' | dd of=some.iso bs=1 seek=510 "
                + "conv=notrunc status=none");
        assertEquals("", read("some.iso").refusal());
        Tools.run(folder, "truncate -s 150000 some.iso");
        assertTrue(read("some.iso").refusal().contains("it is cut short"));
        assertTrue(read("plain").refusal().contains("neither an ISO nor a disk image"));
        assertTrue(read("short").refusal().contains("neither an ISO nor a disk image"));
    }

    private BootImage read(String name) throws IOException {
        try (RawSource source = RawSource.open(folder.resolve(name))) {
            return BootImage.read(source);
        }
    }

    @ParameterizedTest
    @CsvSource({"GPT, EXFAT, 0", "GPT, NTFS, 80", "GPT, EXT4, 0", "MBR, EXFAT, 80", "MBR, NTFS, 0"})
    @Tag("large")
    void aDriveIsMadeReadyByTheSystemsOwnTools(Scheme scheme, StoreFileSystem kind, long rescueMib) throws IOException {
        Tools.run(folder, "head -c 300M /dev/urandom > drive.img; sgdisk -Z -n 1:0:0 drive.img > made.txt; mkdir scratch");
        Preparation how = new Preparation(scheme, kind, "PEG-4", rescueMib * MIB);
        PartitionTable table = DrivePreparation.run(how, 300 * MIB, 512, RestoreTarget.device(folder.resolve("drive.img"), 0, 512),
            folder.resolve("scratch"), new Random(1), Watch.NONE);
        Tools.run(folder, "sfdisk --verify drive.img");
        String dump = Tools.run(folder, "sfdisk -d drive.img");
        assertTrue(dump.contains("label: " + (scheme == Scheme.GPT ? "gpt" : "dos")), dump);
        var store = table.partitions().get(table.partitions().size() - 1);
        String check = switch (kind) {
            case EXFAT -> "fsck.exfat -n part";
            case NTFS -> "ntfsfix -n part";
            case EXT4 -> "e2fsck -fn part";
        };
        String cut = "rm -f part; dd if=drive.img of=part bs=1M iflag=skip_bytes,count_bytes skip=%d count=%d status=none; ";
        String said = Tools.run(folder, String.format(cut, store.startBytes(), store.sizeBytes()) + check + " 1>&2; blkid -p part");
        assertTrue(said.contains("LABEL=\"PEG-4\"") && said.contains("TYPE=\"" + kind.word() + "\""), said);
        if (rescueMib > 0) {
            var rescue = table.partitions().get(0);
            assertTrue(
                Tools.run(folder, String.format(cut, rescue.startBytes(), rescue.sizeBytes()) + "fsck.fat -n part 1>&2; blkid -p part")
                    .contains("LABEL=\"RESCUE\""));
        }
        assertFalse(Tools.run(folder, "ls scratch").contains("prepare"), "nothing is left in scratch");
    }

    /**
     * A FAT of more than a mebibyte, on a drive that held other bytes wherever the file system lies: mebibytes of zeros were passed over,
     * and old bytes stood for clusters in use. First made on a drive of zeros, to learn where it lies; then those places are filled with
     * noise.
     */
    @Test
    @Tag("large")
    void oldBytesOfAReusedDriveAreInNoTableOfTheNewFileSystem() throws IOException {
        Tools.run(folder, "truncate -s 400M drive.img; mkdir scratch");
        Preparation how = new Preparation(Scheme.GPT, StoreFileSystem.EXFAT, "PEG-4", 200 * MIB);
        RestoreTarget drive = RestoreTarget.device(folder.resolve("drive.img"), 0, 512);
        Partition part = DrivePreparation.run(how, 400 * MIB, 512, drive, folder.resolve("scratch"), new Random(1), Watch.NONE).partitions()
            .get(0);
        FileSystem.Mapped blank = mapped(part);
        Extents own = blank.toRead();
        byte[] noise = new byte[1 << 20];
        new Random(2).nextBytes(noise);
        try (FileChannel file = FileChannel.open(folder.resolve("drive.img"), StandardOpenOption.WRITE)) {
            for (int i = 0; i < own.count(); i++) {
                for (long at = own.start(i); at < own.end(i); at += noise.length) {
                    file.write(ByteBuffer.wrap(noise, 0, (int) Math.min(noise.length, own.end(i) - at)), part.startBytes() + at);
                }
            }
        }
        assertTrue(own.totalBytes() > 2 * MIB, "it crosses mebibytes of zeros");
        DrivePreparation.run(how, 400 * MIB, 512, drive, folder.resolve("scratch"), new Random(1), Watch.NONE);
        assertEquals(blank.usedBlocks(), mapped(part).usedBlocks());
        Tools.run(folder, "dd if=drive.img of=part bs=1M iflag=skip_bytes,count_bytes skip=" + part.startBytes() + " count="
            + part.sizeBytes() + " status=none; fsck.fat -n part");
    }

    /** A drive that gives back other bytes than were written was called ready: nothing was read back. */
    @Test
    void aPreparedDriveThatGivesBackOtherBytesIsNotReady() throws IOException {
        Tools.run(folder, "truncate -s 64M drive.img; mkdir scratch");
        RestoreTarget drive = RestoreTarget.device(folder.resolve("drive.img"), 0, 512);
        RestoreTarget failing = new RestoreTarget() {
            @Override
            public BlockTarget open() throws IOException {
                return drive.open();
            }

            @Override
            public BlockSource readBack() throws IOException {
                // within the first partition, where its file system begins
                Tools.run(folder, "printf '\\xA5' | dd of=drive.img bs=1 seek=$((1048576 + 1080)) conv=notrunc status=none");
                return drive.readBack();
            }
        };
        Preparation how = new Preparation(Scheme.GPT, StoreFileSystem.EXT4, "PEG-4", 0);
        FaultException fault = assertThrows(FaultException.class,
            () -> DrivePreparation.run(how, 64 * MIB, 512, failing, folder.resolve("scratch"), new Random(1), Watch.NONE));
        assertEquals(Fault.Kind.DAMAGED, fault.fault().kind());
    }

    private FileSystem.Mapped mapped(Partition part) throws IOException {
        try (RawSource source = RawSource.open(folder.resolve("drive.img"))) {
            return assertInstanceOf(FileSystem.Mapped.class, FileSystems.probe(source, part.startBytes(), part.sizeBytes()));
        }
    }

    /** A drive was wiped before it was known whether the file system could be made, and nothing stopped it. */
    @Test
    void theDriveIsTouchedOnlyWhenAllIsReadyAndAStopSaysWhatIsOnIt() throws IOException {
        Tools.run(folder, "head -c 64M /dev/urandom > drive.img; sha256sum drive.img > before; mkdir scratch");
        RestoreTarget drive = RestoreTarget.device(folder.resolve("drive.img"), 0, 512);
        Preparation how = new Preparation(Scheme.GPT, StoreFileSystem.EXT4, "PEG-4", 0);
        FaultException early = assertThrows(FaultException.class,
            () -> DrivePreparation.run(how, 64 * MIB, 512, drive, folder.resolve("scratch"), new Random(1), stopping(0)));
        assertTrue(early.getMessage().endsWith("Nothing was written."), early.getMessage());
        assertThrows(IOException.class,
            () -> DrivePreparation.run(how, 64 * MIB, 512, drive, folder.resolve("none"), new Random(1), Watch.NONE));
        Tools.run(folder, "sha256sum -c before");
        FaultException late = assertThrows(FaultException.class,
            () -> DrivePreparation.run(how, 64 * MIB, 512, drive, folder.resolve("scratch"), new Random(1), stopping(3)));
        assertEquals(Fault.Kind.STOPPED, late.fault().kind());
        assertTrue(late.getMessage().contains("a new table and an unfinished file system"), late.getMessage());
        assertFalse(Tools.run(folder, "ls scratch").contains("prepare"), "nothing is left in scratch");
    }

    private static Watch stopping(int after) {
        AtomicInteger seen = new AtomicInteger();
        return new Watch() {
            @Override
            public void advanced(Progress progress) {
                seen.incrementAndGet();
            }

            @Override
            public boolean stopRequested() {
                return seen.get() >= after;
            }
        };
    }
}
