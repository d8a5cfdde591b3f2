package app.granary.engine.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.Partition;
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
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** What a restore does when it breaks off, when the image is damaged or lacks a part, and when others are to stay. */
class RestoreFaultsTest extends RestoreFixture {
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
