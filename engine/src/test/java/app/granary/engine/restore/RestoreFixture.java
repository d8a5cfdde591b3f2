package app.granary.engine.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import app.granary.core.disk.Extents;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
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
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.OptionalLong;
import org.junit.jupiter.api.io.TempDir;

/** Images of disks with every file system there is a writer for, and what the systems' own tools say of them. */
abstract class RestoreFixture {
    static final long MIB = 1L << 20;
    @TempDir
    Path folder;
    static final Passphrase SECRET = Passphrase.of("chain and offset".toCharArray());

    Bag capture(Path disk, String name) throws IOException {
        return capture(disk, name, Codec.ZSTD, OptionalLong.empty(), Passphrase.NONE);
    }

    Bag capture(Path disk, String name, Codec codec, OptionalLong splitBytes, Passphrase passphrase) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            DiskSurvey survey = DiskSurvey.of(source, SurveyChoice.USED);
            CaptureRequest request = new CaptureRequest(ImageName.parse(name), codec, codec == Codec.NONE ? 0 : 1, splitBytes, passphrase,
                new DiskIdentity("model", "serial", source.sizeBytes()), true);
            return Bag.open(Capture.run(source, survey, request, folder, Clock.systemUTC(), Watch.NONE).bag(), passphrase);
        }
    }

    static RestoreRequest request(Bag bag, long bytes, LayoutChoice choice) throws IOException {
        DiskSurvey survey = Restore.survey(bag, bag.content());
        return RestoreRequest.of(survey,
            RestoreLayout.of(survey, LayoutTarget.blank(bytes, survey.sectorBytes(), Firmware.UNKNOWN), choice));
    }

    RestoreLayout restore(Bag bag, RestoreRequest request, RestoreTarget target) throws IOException {
        RestoreOutcome outcome = Restore.run(bag, bag.content(), request, target, Watch.NONE);
        assertEquals(List.of(), outcome.differences());
        assertTrue(outcome.compared() && outcome.passedOver().isEmpty());
        return request.layout();
    }

    /** Every file by its path and digest, read by the file systems' own tools, after their own checkers found nothing. */
    String files(Path disk, String kind, long start, long bytes) {
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
                + "ntfsfix -n part > fsck.txt || { cat fsck.txt; exit 1; }; ntfsfix -d part > fsck.txt; "
                + "for f in a sh numbers passwd later; do ntfscat part $f > "
                + "out/$f; done"
                + sums);
            case "exfat" ->
                Tools.run(folder, cut + "fsck.exfat -n part > fsck.txt || { cat fsck.txt; exit 1; }; dump.exfat part | grep -v part");
            default -> "";
        };
    }

    /** What grew must still hold its files once the tool that was advised was let loose on it. */
    String grownFiles(Placed each, RestoreLayout layout, Path back, String kind) {
        String command = layout.steps().stream().filter(step -> step.command().endsWith("/dev/sdX" + each.to().number())).findFirst()
            .orElseThrow().command();
        Tools.run(folder,
            "dd if=" + back + " of=grown bs=1M iflag=skip_bytes,count_bytes skip=" + each.to().startBytes() + " count="
                + each.to().sizeBytes() + " conv=sparse status=none; truncate -s " + each.to().sizeBytes()
                + " grown; e2fsck -fp grown > made.txt 2>&1 || true; (" + command.replaceAll("/dev/sdX[0-9]+", "grown") + " <<< y"
                + (kind.equals("ntfs") ? " -f; ntfsfix -d grown" : "") + ") > made.txt 2>&1");
        return files(folder.resolve("grown"), kind, 0, each.to().sizeBytes());
    }

    void requireSame(Medium medium, Path disk, Path back, RestoreLayout layout) {
        for (Placed each : layout.placed()) {
            String kind = medium.fileSystem(each.from().number());
            String before = files(disk, kind, each.from().startBytes(), each.from().sizeBytes());
            assertTrue(before.isEmpty() == (kind.isEmpty() || kind.equals("swap")), kind);
            assertEquals(before, files(back, kind, each.to().startBytes(), each.to().sizeBytes()), each.to().label());
            if (each.to().sizeBytes() > each.from().sizeBytes() && !before.isEmpty()) {
                assertEquals(before, grownFiles(each, layout, back, kind));
            }
        }
        if (layout.table().scheme().equals("gpt")) {
            String said = Tools.run(folder, "sgdisk -v " + back);
            assertTrue(said.contains("No problems found"), said);
        }
        Tools.run(folder, "sfdisk --verify " + back);
    }

    /** The tool that made exFAT checks the checksum over its boot sectors; where they lie is told of a volume that began at byte 0. */
    static String identity(Bag bag) throws IOException {
        return new ImageChunks(bag, bag.content(), Extents.NONE).identity().orElseThrow();
    }

    static long sizeOf(Path disk) throws IOException {
        return Files.size(disk) / MIB;
    }

    String plain(Bag bag) {
        Tools.run(folder, "cat " + bag.folder() + "/data/disk.img.zst* | zstd -dc > plain.img");
        return "plain.img";
    }
}
