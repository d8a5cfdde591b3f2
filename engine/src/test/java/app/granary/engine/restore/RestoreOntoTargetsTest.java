package app.granary.engine.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionType;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutChoice.Strategy;
import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.bag.Bag;
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
import java.util.List;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Disks made by the system's own tools are captured, written onto targets of other sizes, and looked at by the same tools. */
class RestoreOntoTargetsTest extends RestoreFixture {
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
                    files(back, medium.fileSystem(each.from().number()), each.to().startBytes(), each.to().sizeBytes()));
            }
        }
        if (mib == sizeOf(disk) && strategy == Strategy.KEEP && !overOldBytes) {
            assertEquals(-1, Files.mismatch(back, folder.resolve(plain(bag))), "the same size gives the same bytes");
        }
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
}
