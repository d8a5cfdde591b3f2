package app.granary.engine.media;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.Extents;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.LeftOut;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Page file, hibernation file and swap: found by name, placed where ntfsinfo, debugfs and mshowfat say they lie, zeroed with nothing else
 * harmed.
 */
@Tag("large")
class LeftOutTest {
    @TempDir
    Path folder;

    private DiskSurvey survey(Path disk, SurveyChoice choice) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            return DiskSurvey.of(source, choice);
        }
    }

    private List<LeftOut> leftOut(Path disk) throws IOException {
        DiskSurvey without = survey(disk, SurveyChoice.USED);
        DiskSurvey with = survey(disk, new SurveyChoice(false, true));
        assertTrue(with.leftOut().isEmpty());
        assertEquals(with.usedBytes() - without.leftOut().stream().mapToLong(LeftOut::bytes).sum(), without.usedBytes());
        Zeroed.copy(disk, without.toRead(), folder.resolve("kept.img"));
        return without.leftOut();
    }

    @Test
    void onNtfsInARootOfMoreThanOneIndexBlock() throws IOException {
        Path disk = folder.resolve("ntfs.img");
        Tools.run(folder,
            "truncate -s 80M ntfs.img; mkntfs -q -F ntfs.img > /dev/null; seq 1 200000 > text; head -c 9000000 /dev/urandom > pages; "
                + "head -c 5000000 /dev/urandom > sleep;"
                + "for i in $(seq 1 70); do ntfscp -f -q ntfs.img /etc/hostname a-file-with-a-long-name-$i > /dev/null; done;"
                + "ntfscp -f -q ntfs.img pages pagefile.sys > /dev/null; ntfscp -f -q ntfs.img sleep hiberfil.sys > /dev/null; ntfscp -f "
                + "-q ntfs.img text text > /dev/null");
        List<LeftOut> found = leftOut(disk);
        assertEquals(List.of("hiberfil.sys hibernation file", "pagefile.sys page file"),
            found.stream().map(l -> l.path() + " " + l.what().word()).sorted().toList());
        for (LeftOut each : found) {
            // runs as ntfsinfo prints them: VCN, LCN, length in hexadecimal
            Matcher run = Pattern.compile("\\n\\s+0x[0-9a-f]+\\s+0x([0-9a-f]+)\\s+0x([0-9a-f]+)")
                .matcher(Tools.run(folder, "ntfsinfo -f -v -F " + each.path() + " ntfs.img"));
            Extents.Builder theirs = new Extents.Builder();
            while (run.find()) {
                long first = Long.parseLong(run.group(1), 16) * 4096;
                theirs.add(first, first + Long.parseLong(run.group(2), 16) * 4096);
            }
            assertEquals(theirs.build(), each.ranges());
        }
        assertEquals("", Tools.run(folder,
            "ntfsfix -n kept.img > /dev/null; ntfscat kept.img text | cmp - text; ntfscat kept.img pagefile.sys | tr -d '\\0' | head -c "
                + "1"));
    }

    @Test
    void onExtWithAndWithoutExtents() throws IOException {
        for (String kind : List.of("ext4 -b 4096", "ext2 -b 1024")) {
            Path disk = folder.resolve("ext.img");
            Tools.run(folder,
                "rm -rf root ext.img; mkdir root; truncate -s 20M root/swapfile; mkswap -q root/swapfile; for at in 0 2100 3100; do "
                    + "printf x | dd of=root/swapfile bs=1 seek=$at conv=notrunc status=none; done;"
                    + "seq 400000 | head -c 2000000 | dd of=root/swapfile bs=1M seek=1 iflag=fullblock conv=notrunc status=none || true;"
                    + "seq 1 90000 > root/text; echo not swap > root/swap.img; truncate -s 60M ext.img; mkfs." + kind
                    + " -q -F -d root ext.img");
            List<LeftOut> found = leftOut(disk);
            assertEquals(List.of("swapfile swap"), found.stream().map(l -> l.path() + " " + l.what().word()).toList(),
                "a small file of that name is no swap");
            long block = kind.contains("1024") ? 1024 : 4096;
            Extents.Builder theirs = new Extents.Builder();
            Tools.run(folder, "debugfs -R 'blocks /swapfile' ext.img 2>/dev/null").lines()
                .flatMap(line -> java.util.Arrays.stream(line.trim().split(" ")))
                .filter(word -> !word.isBlank()).mapToLong(Long::parseLong).sorted()
                .forEach(number -> theirs.add(number * block, (number + 1) * block));
            // debugfs lists blocks of the map too; what is left out is a part of it, all but the header page and the map
            Extents listed = theirs.build();
            Extents ours = found.get(0).ranges();
            assertEquals(ours.totalBytes(), ours.totalBytes() - ours.minus(listed).totalBytes());
            assertTrue(listed.totalBytes() - ours.totalBytes() >= 4096 && listed.totalBytes() - ours.totalBytes() < 64 * 1024,
                listed + " against " + ours);
            Tools.run(folder,
                "e2fsck -fn kept.img; debugfs -R 'cat /text' kept.img 2>/dev/null | cmp - root/text; debugfs -R 'cat /swapfile' kept.img "
                    + "2>/dev/null > back;"
                    + "cmp -n 4096 back root/swapfile; tail -c +4097 back | tr -d '\\0' | wc -c | grep -x 0");
        }
    }

    @Test
    void onFatOfEveryWidth() throws IOException {
        for (String kind : List.of("-F 12 -s 8 12000", "-F 16 -s 2 60000", "-F 32 -s 1 80000")) {
            String options = kind.substring(0, kind.lastIndexOf(' '));
            String kib = kind.substring(kind.lastIndexOf(' ') + 1);
            Path disk = folder.resolve("fat.img");
            Tools.run(folder, "export MTOOLS_SKIP_CHECK=1; rm -f fat.img; truncate -s " + kib + "K fat.img; mkfs.vfat " + options
                + " fat.img > /dev/null; head -c 3000000 /dev/urandom > pages;"
                + "seq 1 90000 > text; seq 1 9000 > small; mcopy -i fat.img small ::/first; mcopy -i fat.img text ::/text; mdel -i "
                + "fat.img ::/first; mcopy -i fat.img pages ::/PAGEFILE.SYS");
            List<LeftOut> found = leftOut(disk);
            assertEquals(List.of("pagefile.sys page file"), found.stream().map(l -> l.path() + " " + l.what().word()).toList());
            Matcher cluster = Pattern.compile("<(\\d+)(?:-(\\d+))?>")
                .matcher(Tools.run(folder, "export MTOOLS_SKIP_CHECK=1; mshowfat -i fat.img ::/PAGEFILE.SYS"));
            long clusters = 0;
            while (cluster.find()) {
                clusters += cluster.group(2) == null ? 1 : Long.parseLong(cluster.group(2)) - Long.parseLong(cluster.group(1)) + 1;
            }
            long bytes = Long.parseLong(options.substring(options.lastIndexOf(' ') + 1)) * 512;
            assertEquals(clusters * bytes, found.get(0).bytes());
            Tools.run(folder,
                "fsck.fat -n kept.img; export MTOOLS_SKIP_CHECK=1; mcopy -n -i kept.img ::/text - | cmp - text; mcopy -n -i kept.img "
                    + "::/PAGEFILE.SYS - | tr -d '\\0' | wc -c | grep -x 0");
        }
    }

    @Test
    void aGapTellsWhatLiesInIt() throws IOException {
        Path disk = folder.resolve("gaps.img");
        Tools.run(folder,
            "truncate -s 90M gaps.img; printf 'label: gpt\\nstart=2048,size=20M,type=L\\nstart=60M,size=10M,type=L\\n' | sfdisk -q "
                + "gaps.img;"
                + "mkfs.ext4 -q -F -E offset=$((21 * 1048576)) gaps.img 8M");
        assertEquals(List.of("0 data", "22020096 ext4", "73400320 nothing"),
            survey(disk, SurveyChoice.USED).gaps().stream().map(g -> g.startBytes() + " " + g.holds()).toList());
    }

    @Test
    void aPartitionAPersonLeavesOutIsNotReadAndTheOthersAre() throws IOException {
        Path disk = folder.resolve("two.img");
        Tools.run(folder,
            "truncate -s 64M two.img; printf 'label: gpt\\nsize=30MiB\\nsize=30MiB\\n' | sfdisk -q two.img; for p in 1 2; do truncate -s "
                + "30M p; mkfs.ext4 -q p; "
                + "dd if=p of=two.img bs=1M seek=$((1 + (p0=$p - 1) * 30)) conv=notrunc status=none; rm p; done");
        DiskSurvey all = survey(disk, SurveyChoice.USED);
        DiskSurvey without = survey(disk, new SurveyChoice(false, false, java.util.Set.of(2)));
        LeftOut left = without.leftOut().get(0);
        assertEquals("partition", left.what().word());
        assertEquals(all.usedBytes() - left.bytes(), without.usedBytes());
        assertEquals(all.toRead().minus(left.ranges()), without.toRead());
        // with every block asked for, that partition alone stays out
        assertEquals((64L - 30) << 20, survey(disk, new SurveyChoice(true, true, java.util.Set.of(2))).usedBytes());
        Zeroed.copy(disk, without.toRead(), folder.resolve("kept.img"));
        assertEquals("", Tools.run(folder,
            "dd if=kept.img of=first bs=1M skip=1 count=30 status=none; e2fsck -fn first > /dev/null 2>&1; dd if=kept.img bs=1M skip=31 "
                + "count=30 status=none | tr -d '\\0' | head -c 1"));
    }
}
