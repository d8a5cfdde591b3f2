package app.granary.engine.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.Extents;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionType;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutChoice.Strategy;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.bag.Bag;
import app.granary.engine.capture.Capture;
import app.granary.engine.capture.CaptureRequest;
import app.granary.core.proof.Problem;
import app.granary.engine.codec.Chunks;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.openpgp.Passphrase;
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
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Disks made by the system's own tools are captured, written onto targets of other sizes, and looked at by the same tools. */
class RestoreOntoTargetsTest {
    private static final long MIB = 1L << 20;

    @TempDir
    Path folder;

    private static final Passphrase SECRET = Passphrase.of("chain and offset".toCharArray());

    private Bag capture(Path disk, String name) throws IOException {
        return capture(disk, name, Codec.ZSTD, OptionalLong.empty(), Passphrase.NONE);
    }

    private Bag capture(Path disk, String name, Codec codec, OptionalLong splitBytes, Passphrase passphrase) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            DiskSurvey survey = DiskSurvey.of(source, SurveyChoice.USED);
            CaptureRequest request = new CaptureRequest(ImageName.parse(name), codec, codec == Codec.NONE ? 0 : 1, splitBytes, passphrase,
                new DiskIdentity("model", "serial", source.sizeBytes()), true);
            return Bag.open(Capture.run(source, survey, request, folder, Clock.systemUTC(), Watch.NONE).bag(), passphrase);
        }
    }

    private static RestoreRequest request(Bag bag, long bytes, LayoutChoice choice) throws IOException {
        DiskSurvey survey = Restore.survey(bag, bag.content());
        return RestoreRequest.of(survey,
            RestoreLayout.of(survey, LayoutTarget.blank(bytes, survey.sectorBytes(), Firmware.UNKNOWN), choice));
    }

    private RestoreLayout restore(Bag bag, RestoreRequest request, RestoreTarget target) throws IOException {
        RestoreOutcome outcome = Restore.run(bag, bag.content(), request, target, Watch.NONE);
        assertEquals(List.of(), outcome.differences());
        assertTrue(outcome.compared() && outcome.passedOver().isEmpty());
        return request.layout();
    }

    /** Every file by its path and digest, read by the file systems' own tools, after their own checkers found nothing. */
    private String files(Path disk, String kind, long start, long bytes) {
        String cut = "rm -rf out part; mkdir out; dd if=" + disk + " of=part bs=1M iflag=skip_bytes,count_bytes skip=" + start + " count="
            + bytes + " conv=sparse status=none; truncate -s " + bytes + " part; ";
        String sums = "; cd out; find . -type f | sort | xargs -r sha256sum";
        return switch (kind) {
            case "ext4", "ext2", "ext3" -> Tools.run(folder, cut
                + "e2fsck -fn part > fsck.txt 2>&1 || { cat fsck.txt; exit 1; }; debugfs -R 'rdump / out' part 2> debug.txt; rm -rf "
                + "out/lost+found"
                + sums);
            case "vfat" -> Tools.run(folder,
                cut + "fsck.fat -n part > fsck.txt || { cat fsck.txt; exit 1; }; export MTOOLS_SKIP_CHECK=1; mcopy -i part -s -n ::/ out"
                    + sums);
            case "ntfs" -> Tools.run(folder, cut
                + "ntfsfix -n part > fsck.txt || { cat fsck.txt; exit 1; }; for f in a sh numbers passwd later; do ntfscat part $f > "
                + "out/$f; done"
                + sums);
            case "exfat" ->
                Tools.run(folder, cut + "fsck.exfat -n part > fsck.txt || { cat fsck.txt; exit 1; }; dump.exfat part | grep -v part");
            default -> "";
        };
    }

    /** What grew must still hold its files once the tool that was advised was let loose on it. */
    private String grownFiles(Placed each, RestoreLayout layout, Path back, String kind) {
        String command = layout.steps().stream().filter(step -> step.command().endsWith("/dev/sdX" + each.to().number())).findFirst()
            .orElseThrow().command();
        Tools.run(folder,
            "dd if=" + back + " of=grown bs=1M iflag=skip_bytes,count_bytes skip=" + each.to().startBytes() + " count="
                + each.to().sizeBytes() + " conv=sparse status=none; truncate -s " + each.to().sizeBytes()
                + " grown; e2fsck -fp grown > made.txt 2>&1 || true; (echo y | " + command.replaceAll("/dev/sdX[0-9]+", "grown")
                + (kind.equals("ntfs") ? " -f; ntfsfix -d grown" : "") + ") > made.txt 2>&1");
        return files(folder.resolve("grown"), kind, 0, each.to().sizeBytes());
    }

    private void requireSame(Medium medium, Path disk, Path back, RestoreLayout layout) {
        for (Placed each : layout.placed()) {
            String kind = medium.fileSystem(each.from().number());
            String before = files(disk, kind, each.from().startBytes(), each.from().sizeBytes());
            assertTrue(before.isEmpty() == (kind.isEmpty() || kind.equals("swap")), kind);
            assertEquals(before, files(back, kind, each.to().startBytes(), each.from().sizeBytes()), each.to().label());
            if (each.resized() && !before.isEmpty()) {
                assertEquals(before, grownFiles(each, layout, back, kind));
            }
        }
        if (layout.table().scheme().equals("gpt")) {
            String said = Tools.run(folder, "sgdisk -v " + back);
            assertTrue(said.contains("No problems found"), said);
        }
        Tools.run(folder, "sfdisk --verify " + back);
    }

    @ParameterizedTest
    @CsvSource({
        "GPT_FIRMWARE_RESERVED_MAIN_RECOVERY, 500, GROW, false, zstd",
        "GPT_FIRMWARE_RESERVED_MAIN_RECOVERY, 400, KEEP, true, zstd in encrypted parts",
        "GPT_FIRMWARE_RESERVED_MAIN_RECOVERY, 450, SHARE, true, zstd",
        "GPT_FIRMWARE_RESERVED_MAIN_RECOVERY, 260, KEEP, false, zstd",
        "MBR_FAT_BOOT_EXT4_LOGICAL, 300, GROW, true, gzip",
        "MBR_FAT_BOOT_EXT4_LOGICAL, 400, SHARE, false, zstd in encrypted parts",
        "MBR_FAT_BOOT_EXT4_LOGICAL, 220, KEEP, true, xz",
        "MBR_FAT_BOOT_EXT4_LOGICAL, 164, KEEP, false, zstd",
        "MBR_FOUR_LOGICAL, 200, GROW, true, zstd in encrypted parts",
        "MBR_FOUR_LOGICAL, 140, KEEP, true, none",
        "GPT_EXT4_4K_SECTORS, 200, GROW, false, zstd",
        "GPT_EXFAT_4K_CLUSTERS, 90, KEEP, false, zstd",
        "EXT3_NO_TABLE, 130, KEEP, true, zstd in encrypted parts",
    })
    void theSystemsOwnToolsFindEveryFileAndNoFault(Medium medium, long mib, Strategy strategy, boolean overOldBytes, String stored)
        throws IOException {
        Path disk = medium.make(folder);
        boolean encrypted = stored.endsWith("encrypted parts");
        Codec codec = Codec.valueOf(stored.split(" ")[0].toUpperCase(java.util.Locale.ROOT));
        Bag bag = capture(disk, "image", codec, encrypted ? OptionalLong.of(3 * MIB) : OptionalLong.empty(),
            encrypted ? SECRET : Passphrase.NONE);
        Path back = folder.resolve("back.img");
        long bytes = mib * MIB;
        RestoreRequest request = request(bag, bytes, LayoutChoice.of(strategy));
        RestoreTarget target;
        if (overOldBytes) { // a disk that held something else: what is not in use may stay, and nothing of it may show
            Tools.run(folder, "openssl enc -aes-128-ctr -nosalt -K 00 -iv 00 < /dev/zero 2> /dev/null | head -c " + bytes
                + " > back.img || true; sgdisk -Z -o back.img > made.txt || true");
            target = RestoreTarget.device(back, bytes, medium.sectorBytes());
        } else {
            target = RestoreTarget.file(back, bytes, medium.sectorBytes());
        }
        RestoreLayout layout = restore(bag, request, target);
        assertEquals(bytes, Files.size(back));
        if (medium.sectorBytes() == 512 && !medium.name().contains("NO_TABLE")) {
            requireSame(medium, disk, back, layout);
        } else {
            for (Placed each : layout.placed()) {
                assertEquals(files(disk, medium.fileSystem(each.from().number()), each.from().startBytes(), each.from().sizeBytes()),
                    files(back, medium.fileSystem(each.from().number()), each.to().startBytes(), each.from().sizeBytes()));
            }
        }
        if (mib == sizeOf(disk) && strategy == Strategy.KEEP && !overOldBytes) {
            assertEquals(-1, Files.mismatch(back, folder.resolve(plain(bag))), "the same size gives the same bytes");
        }
    }

    /** The tool that made exFAT checks the checksum over its boot sectors; where they lie is told of a volume that began at byte 0. */
    private static String identity(Bag bag) throws IOException {
        return new ImageChunks(bag, bag.content(), Extents.NONE).identity().orElseThrow();
    }

    @Test
    void exfatBootSectorsFollowTheirPartitionWithASoundChecksum() throws IOException {
        Path part = folder.resolve("part.img");
        Tools.run(folder, "truncate -s 64M part.img; mkfs.exfat part.img > made.txt");
        Partition from = new Partition(1, 0, 64 * MIB, PartitionType.of("07"), "", "", 0, false);
        Partition to = new Partition(1, MIB, 64 * MIB, from.type(), "", "", 0, false);
        List<Patch> patches;
        try (RawSource source = RawSource.open(part)) {
            patches = BootSectors.moved(source, new Placed(from, to, "exfat", OptionalLong.empty(), 0, 0, 0, true));
        }
        assertEquals(4, patches.size());
        try (FileChannel channel = FileChannel.open(part, StandardOpenOption.WRITE)) {
            for (Patch patch : patches) {
                channel.write(ByteBuffer.wrap(patch.content()), patch.offsetBytes() - MIB);
            }
        }
        assertEquals("2048", Tools.run(folder, "od -An -t u8 -j 64 -N 8 part.img").strip());
        Tools.run(folder, "fsck.exfat -n part.img");
        Tools.run(folder, "dd if=part.img of=part.img bs=512 skip=12 count=12 conv=notrunc status=none; fsck.exfat -n part.img");
    }

    private static long sizeOf(Path disk) throws IOException {
        return Files.size(disk) / MIB;
    }

    private String plain(Bag bag) {
        Tools.run(folder, "cat " + bag.folder() + "/data/disk.img.zst* | zstd -dc > plain.img");
        return "plain.img";
    }

    /** Advice is followed with the tools it names, and then it fits. */
    @Test
    void aSmallerTargetNeedsWhatTheAdviceSaysAndThenItFits() throws IOException {
        Medium medium = Medium.GPT_FIRMWARE_RESERVED_MAIN_RECOVERY;
        Path disk = medium.make(folder);
        RestoreLayout refused = request(capture(disk, "before"), 200 * MIB, LayoutChoice.KEEP).layout();
        FaultException fault = assertThrows(FaultException.class,
            () -> Restore.run(Bag.open(folder.resolve("before")), Bag.open(folder.resolve("before")).content(),
                request(Bag.open(folder.resolve("before")), 200 * MIB,
                    LayoutChoice.KEEP),
                RestoreTarget.file(folder.resolve("never"), 200 * MIB, 512), Watch.NONE));
        assertEquals(Fault.Kind.NO_ROOM, fault.fault().kind());
        assertFalse(Files.exists(folder.resolve("never")));
        Placed main = refused.placed().get(2);
        String command = refused.steps().get(0).command();
        assertEquals("ntfsresize --size " + main.to().sizeBytes() + " /dev/sdX3", command);
        Tools.run(folder,
            "cp --sparse=always " + disk + " shrunk.img; dd if=shrunk.img of=part bs=1M iflag=skip_bytes,count_bytes skip="
                + main.from().startBytes() + " count=" + main.from().sizeBytes() + " status=none; echo y | "
                + command.replace("/dev/sdX3", "part") + " -f > made.txt 2>&1; dd if=part of=shrunk.img bs=1M oflag=seek_bytes seek="
                + main.from().startBytes() + " conv=notrunc status=none; ntfsfix -d part > made.txt || true;"
                + "dd if=part of=shrunk.img bs=1M oflag=seek_bytes seek=" + main.from().startBytes() + " conv=notrunc status=none; echo ', "
                + main.to().sizeBytes() / 512 + "' | sfdisk -q -N 3 shrunk.img");
        Path shrunk = folder.resolve("shrunk.img");
        Bag bag = capture(shrunk, "after");
        Path back = folder.resolve("back.img");
        RestoreLayout layout = restore(bag, request(bag, 200 * MIB, LayoutChoice.KEEP), RestoreTarget.file(back, 200 * MIB, 512));
        requireSame(medium, shrunk, back, layout);
        assertTrue(layout.placed().get(3).moved());
    }

    @Test
    @Tag("large")
    void whatIsBrokenOffIsCarriedOnAndOnlyForTheSameWork() throws IOException {
        Path disk = folder.resolve("disk.img");
        Tools.run(folder,
            "truncate -s 400M disk.img; printf 'label: gpt\\ntype=L\\n' | sfdisk -q disk.img; mkdir root; head -c 320000000 /dev/urandom "
                + "> root/noise; mkfs.ext4 -q -F -E offset=1048576 -d root disk.img 400000k");
        Bag bag = capture(disk, "image");
        Path back = folder.resolve("back.img");
        Tools.run(folder, "truncate -s 500M back.img");
        RestoreLog log = new RestoreLog(folder.resolve("back.log"), "SERIAL");
        RestoreRequest request = request(bag, 500 * MIB, LayoutChoice.of(Strategy.GROW)).logged(log, false);
        Watch pullsThePlug = new Watch() {
            private boolean stop;

            @Override
            public void advanced(Progress progress) {
                stop |= progress.stage() == Progress.Stage.RESTORING && progress.doneBytes() > progress.totalBytes() * 0.9;
            }

            @Override
            public boolean stopRequested() {
                return stop;
            }
        };
        assertThrows(FaultException.class, () -> Restore.run(bag, bag.content(), request, RestoreTarget.device(back, 500 * MIB, 512),
            pullsThePlug));
        long done = log.done(identity(bag), request.layout()).chunks();
        assertTrue(done >= 256, "noted " + done);
        assertEquals(0, log.done(identity(bag), request(bag, 500 * MIB, LayoutChoice.KEEP).layout()).chunks(),
            "another layout is other work");
        assertEquals(0, new RestoreLog(folder.resolve("back.log"), "OTHER").done(identity(bag), request.layout()).chunks(),
            "another target too");
        RestoreOutcome outcome = Restore.run(bag, bag.content(), request.logged(log, true), RestoreTarget.device(back, 500 * MIB, 512),
            Watch.NONE);
        assertEquals(List.of(), outcome.differences());
        assertTrue(outcome.writtenBytes() < 250 * MIB, "only the rest was written: " + outcome.writtenBytes());
        assertFalse(Files.exists(folder.resolve("back.log")));
        Tools.run(folder,
            "sgdisk -v back.img | grep -q 'No problems found'; dd if=back.img of=part bs=1M skip=1 status=none; e2fsck -fn part > "
                + "fsck.txt 2>&1");
    }

    @Test
    void aDamagedImageIsRestoredOnlyByChoiceAndSaysWhatIsMissing() throws IOException {
        Path disk = Medium.MBR_FAT_BOOT_EXT4_LOGICAL.make(folder);
        Bag bag = capture(disk, "image");
        Tools.run(folder,
            "f=$(ls image/data/disk.img*); printf XXXX | dd of=$f bs=1 seek=$(( $(stat -c %s $f) / 2 )) conv=notrunc status=none");
        Tools.run(folder, "truncate -s 220M back.img; cp back.img before.img");
        RestoreRequest request = request(bag, 220 * MIB, LayoutChoice.KEEP);
        RestoreTarget target = RestoreTarget.device(folder.resolve("back.img"), 220 * MIB, 512);
        String why = assertThrows(FaultException.class, () -> Restore.run(bag, bag.content(), request, target, Watch.NONE)).getMessage();
        assertTrue(why.startsWith("The image is damaged, so the disk was not touched"), why);
        assertEquals(-1, Files.mismatch(folder.resolve("back.img"), folder.resolve("before.img")));
        RestoreOutcome outcome = Restore.run(bag, bag.content(), request.acceptingDamage(true), target, Watch.NONE);
        assertEquals(1, outcome.passedOver().size());
        assertTrue(outcome.passedOver().get(0).message().contains("are damaged in the image"), outcome.passedOver().toString());
        assertEquals(List.of(), outcome.differences());
        // broken off behind the damage and carried on: it was forgotten, and came out as a difference
        RestoreLog log = new RestoreLog(folder.resolve("back.log"), "S");
        long behind = outcome.passedOver().get(0).diskEndBytes() / Chunks.BYTES + 1;
        for (boolean accepted : new boolean[] {true, false}) {
            log.note(identity(bag), request.layout(), behind, outcome.passedOver());
            RestoreRequest again = request.acceptingDamage(accepted).logged(log, true);
            if (accepted) {
                RestoreOutcome carried = Restore.run(bag, bag.content(), again, target, Watch.NONE);
                assertEquals(outcome.passedOver().stream().map(Problem::message).toList(),
                    carried.passedOver().stream().map(Problem::message).toList());
                assertEquals(List.of(), carried.differences());
            } else {
                assertTrue(assertThrows(FaultException.class, () -> Restore.run(bag, bag.content(), again, target, Watch.NONE)).getMessage()
                    .contains("is damaged"));
            }
        }
    }

    @Test
    void onePartitionGoesBetweenOthersThatStay() throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        Bag bag = capture(disk, "image");
        Tools.run(folder,
            "cp " + disk + " back.img; dd if=/dev/zero of=back.img bs=1M seek=1 count=40 conv=notrunc status=none; cp back.img spoilt.img");
        DiskSurvey survey = Restore.survey(bag, bag.content());
        LayoutTarget target = new LayoutTarget(Files.size(disk), 512, Firmware.UEFI, survey.table(), RestoreLayout.ALIGN);
        RestoreLayout layout = RestoreLayout.of(survey, target, LayoutChoice.KEEP.only(Set.of(1), true));
        restore(bag, RestoreRequest.of(survey, layout), RestoreTarget.device(folder.resolve("back.img"), 0, 512));
        Placed boot = layout.placed().get(0);
        assertEquals(files(disk, "vfat", boot.from().startBytes(), boot.from().sizeBytes()),
            files(folder.resolve("back.img"), "vfat", boot.to().startBytes(), boot.to().sizeBytes()));
        assertEquals("", Tools.run(folder, "cmp -i 42991616 spoilt.img back.img; cmp -n 1048576 spoilt.img back.img"));
    }

    @Test
    void aDifferenceOnTheTargetIsFound() throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        Bag bag = capture(disk, "image");
        Path back = folder.resolve("back.img");
        RestoreTarget file = RestoreTarget.file(back, 200 * MIB, 512);
        for (String spoil : List.of("seek=1100000", "seek=700", "seek=$((200 * 1048576 - 500))")) {
            Files.deleteIfExists(back);
            RestoreTarget failing = new RestoreTarget() {
                @Override
                public app.granary.engine.source.BlockTarget open() throws IOException {
                    return file.open();
                }

                @Override
                public app.granary.core.disk.BlockSource readBack() throws IOException {
                    Tools.run(folder, "printf '\\xA5' | dd of=back.img bs=1 " + spoil + " conv=notrunc status=none");
                    return file.readBack();
                }
            };
            assertFalse(Restore.run(bag, bag.content(), request(bag, 200 * MIB, LayoutChoice.of(Strategy.GROW)), failing, Watch.NONE)
                .differences().isEmpty(), spoil);
        }
    }

    /** An image of a laptop without its fourth partition, restored onto its own disk, zeroed that partition and called it equal. */
    @Test
    void aPartitionThatIsNotInTheImageIsNeitherErasedNorMadeOfNothing() throws IOException {
        Path disk = Medium.GPT_FIRMWARE_RESERVED_MAIN_RECOVERY.make(folder);
        Bag bag;
        try (RawSource source = RawSource.open(disk)) {
            DiskSurvey survey = DiskSurvey.of(source, new SurveyChoice(false, false, Set.of(4)));
            CaptureRequest request = new CaptureRequest(ImageName.parse("partly"), Codec.ZSTD, 1, OptionalLong.empty(), Passphrase.NONE,
                new DiskIdentity("model", "serial", source.sizeBytes()), true);
            bag = Bag.open(Capture.run(source, survey, request, folder, Clock.systemUTC(), Watch.NONE).bag());
        }
        assertEquals(Set.of(4), bag.content().description().lacking());
        DiskSurvey survey = Restore.survey(bag, bag.content());
        Partition main = survey.partitions().get(2).partition();
        Partition recovery = survey.partitions().get(3).partition();
        Tools.run(folder, "cp --sparse=always " + disk + " back.img; dd if=/dev/zero of=back.img bs=1M oflag=seek_bytes seek="
            + main.startBytes() + " count=20 conv=notrunc status=none");
        for (Strategy strategy : List.of(Strategy.KEEP, Strategy.GROW)) {
            LayoutTarget itself = new LayoutTarget(Files.size(disk), 512, Firmware.UEFI, survey.table(), RestoreLayout.ALIGN);
            RestoreLayout layout = RestoreLayout.of(survey, itself, LayoutChoice.of(strategy));
            assertTrue(layout.fits() && layout.othersStay(), layout.refusals().toString());
            assertTrue(layout.remarks().toString().contains("Partition 4 is not in the image"), layout.remarks().toString());
            restore(bag, RestoreRequest.of(survey, layout).zeroing(true), RestoreTarget.device(folder.resolve("back.img"), 0, 512));
            String cut = "iflag=skip_bytes,count_bytes skip=" + recovery.startBytes() + " count=" + recovery.sizeBytes()
                + " bs=1M status=none | sha256sum";
            assertEquals(Tools.run(folder, "dd if=" + disk + " " + cut), Tools.run(folder, "dd if=back.img " + cut),
                "what is not in the image stays");
            assertEquals(files(disk, "ntfs", main.startBytes(), main.sizeBytes()), files(folder.resolve("back.img"), "ntfs",
                main.startBytes(), main.sizeBytes()));
        }
        // a disk that has no such partition gets none: one of zeros would pass for it
        RestoreLayout elsewhere = RestoreLayout.of(survey, LayoutTarget.blank(300 * MIB, 512, Firmware.UEFI), LayoutChoice.KEEP);
        assertEquals(List.of(1, 2, 3), elsewhere.placed().stream().map(each -> each.to().number()).toList());
        restore(bag, RestoreRequest.of(survey, elsewhere), RestoreTarget.file(folder.resolve("new.img"), 300 * MIB, 512));
        assertEquals("3", Tools.run(folder, "sfdisk -d new.img | grep -c start=").strip());
        assertFalse(RestoreLayout.of(survey, LayoutTarget.blank(300 * MIB, 512, Firmware.UEFI), LayoutChoice.KEEP.only(Set.of(4), false))
            .fits(), "it cannot be asked for");
    }
}
