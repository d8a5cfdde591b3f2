package app.granary.engine.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTables;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.Added;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.NewPartition;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.target.Preparation.StoreFileSystem;
import app.granary.engine.bag.Bag;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** New partitions are held against sfdisk, sgdisk and blkid, and their file systems against their own checkers. */
class LayoutByHandTest extends RestoreFixture {
    private static final Map<StoreFileSystem, String> CHECKERS = Map.of(StoreFileSystem.EXT4, "e2fsck -fn", StoreFileSystem.NTFS,
        "ntfsfix -n", StoreFileSystem.EXFAT, "fsck.exfat -n");

    /** One partition is left out, and two are made over bytes that were there before. */
    @ParameterizedTest
    @CsvSource({"GPT_FIRMWARE_RESERVED_MAIN_RECOVERY, 4, EXT4, NTFS", "GPT_EXT4_AND_FAT, 1, EXFAT, EXT4",
        "MBR_EXT2_AND_LOGICAL, 1, NTFS, EXFAT",
        "GPT_EXT4_AND_FAT, 0, NTFS, EXFAT"})
    void partitionsAreLeftOutAndMadeNew(Medium medium, int leftOut, StoreFileSystem one, StoreFileSystem other) throws IOException {
        Path disk = medium.make(folder);
        Bag bag = capture(disk, "image");
        Path back = folder.resolve("back.img");
        Tools.run(folder, "head -c 600M /dev/urandom > back.img");
        DiskSurvey survey = Restore.survey(bag, bag.content());
        Set<Integer> kept = survey.partitions().stream().map(SurveyedPartition::partition).filter(each -> !each.container())
            .map(Partition::number).filter(number -> number != leftOut).collect(java.util.stream.Collectors.toSet());
        RestoreRequest request = request(bag, 600 * MIB, LayoutChoice.KEEP.only(leftOut == 0 ? Set.of() : kept, false)
            .adding(List.of(new NewPartition("PEG-7", one, 64 * MIB), new NewPartition("LOFT", other, 0))));
        assertTrue(request.layout().fits(), request.layout().refusals().toString());
        RestoreOutcome outcome = Restore.run(bag, bag.content(), request, RestoreTarget.device(back, 600 * MIB, 512), Watch.NONE);
        assertEquals(List.of(), outcome.differences());
        requireSame(medium, disk, back, request.layout());
        Assumptions.assumeTrue(outcome.lengths().stream().noneMatch(each -> each.contains("no loop device")), "no loop devices here");
        assertEquals(2, request.layout().added().size());
        for (Added each : request.layout().added()) {
            Tools.run(folder, "dd if=back.img of=new.img bs=1M iflag=skip_bytes,count_bytes skip=" + each.to().startBytes() + " count="
                + each.to().sizeBytes() + " status=none; " + CHECKERS.get(each.fileSystem()) + " new.img");
            String said = Tools.run(folder, "blkid -p new.img");
            assertTrue(said.contains("LABEL=\"" + each.label() + "\"") && said.contains("TYPE=\"" + each.fileSystem().word() + "\""), said);
            String table = Tools.run(folder, "sfdisk -d back.img | tr -d ' '");
            assertTrue(table.contains("start=" + each.to().startBytes() / 512 + ",size=" + each.to().sizeBytes() / 512 + ","), table);
        }
    }

    /** The partition of the image lands in another number; all else of the target stays byte for byte. */
    @Test
    void aPartitionGoesIntoOneOfAnotherNumber() throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        Bag bag = capture(disk, "image");
        Path there = folder.resolve("there.img");
        Tools.run(folder, "head -c 200M /dev/urandom > there.img; printf 'label: gpt\\nsize=20M\\nsize=30M\\nsize=90M,type=L\\nsize=8M\\n' "
            + "| sfdisk -q --wipe always there.img; cp there.img before.img");
        DiskSurvey survey = Restore.survey(bag, bag.content());
        RestoreLayout layout;
        try (RawSource target = RawSource.open(there)) {
            layout = RestoreLayout.of(survey, new LayoutTarget(200 * MIB, 512, Firmware.UEFI, PartitionTables.read(target), MIB),
                LayoutChoice.KEEP.only(Set.of(2), true).into(Map.of(2, 3)));
        }
        restore(bag, RestoreRequest.of(survey, layout), RestoreTarget.device(there, 0, 512));
        var placed = layout.placed().get(0);
        assertEquals(51 * MIB, placed.to().startBytes());
        assertEquals(files(disk, "ext4", placed.from().startBytes(), placed.from().sizeBytes()), files(there, "ext4", 51 * MIB, 90 * MIB));
        Tools.run(folder, "cmp -n " + 51 * MIB + " before.img there.img; cmp -i " + 141 * MIB + " before.img there.img");
    }
}
