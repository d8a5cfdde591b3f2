package app.granary.engine.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.disk.PartitionTables;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutChoice.Strategy;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.inventory.Firmware;
import app.granary.engine.bag.Bag;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What was made smaller or larger on the way is held against the files that went in, by e2fsck, debugfs, ntfsfix and ntfscat. */
class ShrinkingTest extends RestoreFixture {
    /** As files that the tools see in the place of the disk, and laid into scratch files. */
    private static final List<Overlay.Shows> WAYS = List.of(Overlay::over, Overlay.Shows.NOTHING);

    private Path scratch;

    @BeforeEach
    void scratch() throws IOException {
        scratch = Files.createDirectories(folder.resolve("scratch"));
    }

    private RestoreRequest smaller(Bag bag, long bytes, Strategy strategy) throws IOException {
        return request(bag, bytes, LayoutChoice.of(strategy).shrinking(true)).scratching(scratch);
    }

    private void requireNothingLeft() throws IOException {
        try (var left = Files.list(scratch)) {
            assertEquals(List.of(), left.toList());
        }
    }

    @ParameterizedTest
    @CsvSource({
        "GPT_FIRMWARE_RESERVED_MAIN_RECOVERY, 200, KEEP, false",
        "GPT_FIRMWARE_RESERVED_MAIN_RECOVERY, 160, SHARE, true",
        "MBR_FAT_BOOT_EXT4_LOGICAL, 130, KEEP, true",
        "MBR_FAT_BOOT_EXT4_LOGICAL, 120, SHARE, false",
        "MBR_EXT2_AND_LOGICAL, 60, KEEP, false",
        "GPT_EXT4_32BIT, 60, GROW, false",
        "GPT_EXT4_1K, 25, KEEP, true",
        "MBR_NTFS_1K_CLUSTERS, 40, KEEP, true",
        "EXT3_NO_TABLE, 40, KEEP, false",
    })
    void aSmallerTargetHoldsEveryFileAndNoFault(Medium medium, long mib, Strategy strategy, boolean overOldBytes) throws IOException {
        Path disk = medium.make(folder);
        Bag bag = capture(disk, "image");
        Path back = folder.resolve("back.img");
        long bytes = mib * MIB;
        RestoreRequest request = smaller(bag, bytes, strategy);
        RestoreLayout layout = request.layout();
        assertTrue(layout.shrinks() && layout.fits(), layout.refusals().toString());
        assertTrue(layout.scratchBytes() > 0);
        for (Overlay.Shows shows : WAYS) {
            Tools.run(folder, overOldBytes ? "head -c " + bytes + " /dev/urandom > back.img" : "rm -f back.img");
            RestoreTarget target = overOldBytes ? RestoreTarget.device(back, bytes, 512) : RestoreTarget.file(back, bytes, 512);
            RestoreOutcome outcome = Restore.run(bag, bag.content(), request, target, shows, Watch.NONE);
            assertEquals(List.of(), outcome.differences());
            assertTrue(outcome.compared());
            assertEquals(bytes, Files.size(back));
            if (medium.hasTable()) {
                requireSame(medium, disk, back, layout);
            } else {
                assertEquals(files(disk, "ext3", 0, Files.size(disk)), files(back, "ext3", 0, bytes));
            }
            requireNothingLeft();
        }
    }

    /** What is told to fit does: the tool takes each as small as the layout says that it can be. */
    @ParameterizedTest
    @CsvSource({"GPT_EXT4_32BIT", "GPT_EXT4_1K", "GPT_EXT4_META_BG", "GPT_EXT4_UNINIT", "GPT_EXT4_SPARSE2", "GPT_EXT4_CSUM_SEED",
        "MBR_NTFS_1K_CLUSTERS", "GPT_NTFS_512_CLUSTERS", "GPT_EXT4_2K_NO_FLEX", "MBR_EXT2_AND_LOGICAL"})
    void eachCanBeMadeAsSmallAsTheLayoutSays(Medium medium) throws IOException {
        Bag bag = capture(medium.make(folder), "image");
        Path back = folder.resolve("back.img");
        Placed largest = request(bag, bag.content().description().disk().sizeBytes(), LayoutChoice.KEEP).layout().placed().stream()
            .max(java.util.Comparator.comparingLong(each -> each.from().sizeBytes())).orElseThrow();
        long bytes = bag.content().description().disk().sizeBytes() - largest.from().sizeBytes() + largest.minBytes() + 2 * MIB;
        RestoreRequest request = request(bag, bytes, LayoutChoice.byHand(Map.of(largest.from().number(), largest.minBytes()))
            .shrinking(true)).scratching(scratch);
        assertTrue(request.layout().fits(), request.layout().refusals().toString());
        RestoreOutcome outcome = Restore.run(bag, bag.content(), request, RestoreTarget.file(back, bytes, 512), Watch.NONE);
        assertEquals(List.of(), outcome.differences());
        assertTrue(outcome.lengths().stream().anyMatch(each -> each.contains("is sound")), outcome.lengths().toString());
    }

    /**
     * A controller's disk of 40 GB of which 6.5 GB are used goes onto 8 and 32 GB, and not onto 4 (common practice, no source); here a
     * thousandth of each, partitions aligned to a thousandth too.
     */
    @Test
    void fortyGigabytesOfWhichSixAndAHalfAreUsedGoOntoEightAndThirtyTwoAndNotFour() throws IOException {
        Tools.run(folder, "mkdir in; head -c 3850000 /dev/urandom > in/recipes; seq 90000 > in/log; truncate -s 40000000 forty.img; "
            + "printf 'label: dos\nstart=2048,type=83\n' | sfdisk -q forty.img; "
            + "mkfs.ext4 -q -F -b 1024 -J size=1 -N 1024 -m 0 -d in -E offset=1048576 forty.img $(((40000000 - 1048576) / 1024))k");
        Bag bag = capture(folder.resolve("forty.img"), "image");
        DiskSurvey survey = Restore.survey(bag, bag.content());
        long used = survey.partitions().get(0).fileSystem().usedBytes().orElseThrow();
        assertTrue(used > 6_400_000 && used < 6_600_000, "used " + used);
        for (long thousandths : new long[] {8_000_000, 32_000_000, 4_000_000}) {
            RestoreLayout layout = RestoreLayout.of(survey, new LayoutTarget(thousandths, 512, Firmware.BIOS,
                new app.granary.core.disk.PartitionTable.Absent(), 1024), LayoutChoice.KEEP.shrinking(true));
            RestoreRequest request = RestoreRequest.of(survey, layout).scratching(scratch);
            Path back = folder.resolve("back-" + thousandths);
            if (thousandths == 4_000_000) {
                FaultException refused = assertThrows(FaultException.class, () -> Restore.run(bag, bag.content(), request,
                    RestoreTarget.file(back, thousandths, 512), Watch.NONE));
                assertTrue(refused.fault().sentence().startsWith("The target has 4.00 MB, and what is in use in the image needs at least "),
                    refused.fault().sentence());
                assertFalse(Files.exists(back));
                continue;
            }
            restore(bag, request, RestoreTarget.file(back, thousandths, 512));
            Placed main = layout.placed().get(0);
            assertEquals(files(folder.resolve("forty.img"), "ext4", 1 << 20, 40_000_000 - (1 << 20)),
                files(back, "ext4", main.to().startBytes(), main.to().sizeBytes()));
            Tools.run(folder, "sfdisk --verify " + back);
        }
        requireNothingLeft();
    }

    /** A tool that refuses, a stop, no room and a folder that is gone: the disk keeps what it had, and nothing is left in the folder. */
    @Test
    void theTargetIsNotTouchedBeforeTheScratchIsSound() throws IOException {
        Path disk = Medium.GPT_EXT4_32BIT.make(folder);
        Path target = folder.resolve("old.img");
        Tools.run(folder, "head -c 62914560 /dev/urandom > old.img; sha256sum old.img > old.sum");
        Bag sound = capture(disk, "sound");
        Tools.run(folder, "cp --sparse=always " + disk + " torn.img; debugfs -w -R 'clri <2>' 'torn.img?offset=1048576' 2> said.txt");
        Bag torn = capture(folder.resolve("torn.img"), "torn");
        Watch stops = new Watch() {
            private boolean shrinking;

            @Override
            public void advanced(Progress progress) {
                shrinking |= progress.stage() == Progress.Stage.SHRINKING;
            }

            @Override
            public boolean stopRequested() {
                return shrinking;
            }
        };
        for (Overlay.Shows shows : WAYS) {
            requireRefused(torn, smaller(torn, 60 * MIB, Strategy.KEEP), target, shows, Watch.NONE,
                "could not be made smaller: e2fsck said");
            requireRefused(sound, smaller(sound, 60 * MIB, Strategy.KEEP), target, shows, stops, "Stopped as asked");
        }
        RestoreRequest nowhere = smaller(sound, 60 * MIB, Strategy.KEEP).scratching(folder.resolve("gone"));
        assertThrows(IOException.class, () -> Restore.run(sound, sound.content(), nowhere, RestoreTarget.device(target, 0, 512),
            Watch.NONE));
        RestoreRequest none = request(sound, 60 * MIB, LayoutChoice.KEEP.shrinking(true));
        requireRefused(sound, none, target, Overlay::over, Watch.NONE, "Name a folder for a scratch file");
        requireRefused(sound, request(sound, 60 * MIB, LayoutChoice.KEEP), target, Overlay::over, Watch.NONE,
            "Let it be made smaller on the way");
    }

    /** Of one whose blocks are handed out in clusters resize2fs 1.47.0 loses count, which the check finds; a later one may do it well. */
    @Test
    void whatAToolSpoilsIsFoundBeforeTheTargetIsTouched() throws IOException {
        Path disk = Medium.GPT_EXT4_BIGALLOC.make(folder);
        Bag bag = capture(disk, "image");
        RestoreRequest request = smaller(bag, 40 * MIB, Strategy.KEEP);
        Path back = folder.resolve("back.img");
        try {
            restore(bag, request, RestoreTarget.file(back, 40 * MIB, 512));
            requireSame(Medium.GPT_EXT4_BIGALLOC, disk, back, request.layout());
        } catch (FaultException told) {
            assertTrue(told.fault().sentence().contains("is not sound after it was made smaller"), told.fault().sentence());
            assertFalse(Files.exists(back));
        }
        requireNothingLeft();
    }

    private void requireRefused(Bag bag, RestoreRequest request, Path target, Overlay.Shows shows, Watch watch, String why)
        throws IOException {
        FaultException refused = assertThrows(FaultException.class, () -> Restore.run(bag, bag.content(), request,
            RestoreTarget.device(target, 0, 512), shows, watch));
        assertTrue(refused.fault().sentence().contains(why), refused.fault().sentence());
        assertTrue(refused.fault().sentence().contains("Nothing was") || refused.fault().kind() == Fault.Kind.STOPPED,
            refused.fault().sentence());
        Tools.run(folder, "sha256sum -c --quiet old.sum");
        requireNothingLeft();
    }

    /** Between others that stay, byte for byte, and so does the table. */
    @ParameterizedTest
    @CsvSource({"16, 50", "50, 16"})
    void aPartitionGoesIntoOneOfAnotherSize(int mib, int rest) throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        Bag bag = capture(disk, "image");
        Path there = folder.resolve("there.img");
        Tools.run(folder, "head -c 90M /dev/urandom > there.img; printf 'label: gpt\\nsize=10M\\nsize=" + mib + "M,type=L\\nsize=" + rest
            + "M\\n' | sfdisk -q --wipe always there.img; cp there.img before.img");
        DiskSurvey survey = Restore.survey(bag, bag.content());
        RestoreLayout layout;
        try (RawSource target = RawSource.open(there)) {
            layout = RestoreLayout.of(survey, new LayoutTarget(90 * MIB, 512, Firmware.UEFI, PartitionTables.read(target), MIB),
                LayoutChoice.KEEP.only(Set.of(2), true).shrinking(true));
        }
        restore(bag, RestoreRequest.of(survey, layout).scratching(scratch), RestoreTarget.device(there, 0, 512));
        Placed placed = layout.placed().get(0);
        assertEquals(files(disk, "ext4", placed.from().startBytes(), placed.from().sizeBytes()),
            files(there, "ext4", 11 * MIB, mib * MIB));
        Tools.run(folder, "cmp -n 11534336 before.img there.img; cmp -i " + (11 + mib) * MIB + " before.img there.img");
    }

    /** As the tools that made them count: all blocks of the partition. */
    @ParameterizedTest
    @CsvSource({"GPT_EXT4_32BIT, 500, 1", "GPT_FIRMWARE_RESERVED_MAIN_RECOVERY, 400, 3", "MBR_EXT2_AND_LOGICAL, 160, 1"})
    void aFileSystemGrowsIntoItsPartition(Medium medium, long mib, int number) throws IOException {
        Path disk = medium.make(folder);
        Bag bag = capture(disk, "image");
        Path back = folder.resolve("back.img");
        RestoreRequest request = request(bag, mib * MIB, LayoutChoice.of(Strategy.GROW));
        RestoreOutcome outcome = Restore.run(bag, bag.content(), request, RestoreTarget.file(back, mib * MIB, 512), Watch.NONE);
        Placed main = request.layout().placed().stream().filter(each -> each.to().sizeBytes() > each.from().sizeBytes()).findFirst()
            .orElseThrow();
        org.junit.jupiter.api.Assumptions.assumeTrue(outcome.lengths().stream().noneMatch(each -> each.contains("no loop device")),
            "no loop devices here");
        assertEquals(1, outcome.lengths().size());
        assertTrue(outcome.lengths().get(0).startsWith("The file system of partition "), outcome.lengths().get(0));
        try (RawSource source = RawSource.open(back)) {
            String kind = DiskSurvey.of(source, SurveyChoice.USED).partitions().stream()
                .filter(each -> each.partition().number() == main.to().number()).findFirst().orElseThrow().fileSystem().kind();
            assertEquals(files(disk, kind, main.from().startBytes(), main.from().sizeBytes()),
                files(back, kind, main.to().startBytes(), main.to().sizeBytes()));
            long bytes = Long.parseLong(Tools.run(folder, kind.equals("ntfs")
                ? "ntfsinfo -m -f part | awk '/Cluster Size/ {c=$3} /Volume Size in Clusters/ {n=$5} END {print c*n}'"
                : "dumpe2fs -h part 2> said.txt | awk '/^Block count/ {n=$3} /^Block size/ {b=$3} END {print n*b}'").strip());
            assertTrue(main.to().sizeBytes() - bytes < 1 << 16, main.to().sizeBytes() + " and " + bytes);
        }
    }
}
