package app.granary.engine.media;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertInstanceOf;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.SfdiskDump;
import app.granary.core.disk.SfdiskScript;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.FileSystem;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.engine.source.RawSource;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * What Granary says of a disk against what sfdisk (util-linux), sgdisk (gdisk), dumpe2fs (e2fsprogs), ntfsinfo, ntfscluster and ntfsresize
 * (ntfs-3g), fsck.fat (dosfstools) and dump.exfat (exfatprogs) say of the same bytes; and what those and their checkers say once all that
 * is not read is zeros.
 */
class InspectAgainstToolsTest {
    @TempDir
    Path folder;

    @ParameterizedTest
    @EnumSource(Medium.class)
    void agreesWithTheSystemsTools(Medium medium) throws IOException {
        Path disk = medium.make(folder);
        DiskSurvey survey;
        try (RawSource source = RawSource.open(disk)) {
            survey = DiskSurvey.of(source, SurveyChoice.USED);
        }
        if (medium.hasTable()) {
            table(medium, disk, survey);
        }
        for (SurveyedPartition each : survey.partitions()) {
            String kind = medium.fileSystem(each.partition().number());
            if (kind.equals("swap")) {
                assertInstanceOf(FileSystem.Swap.class, each.fileSystem());
                assertEquals(4096, each.toRead().totalBytes(), "only the header page of swap is read");
            } else if (!kind.isEmpty()) {
                Path part = medium.hasTable() && !kind.startsWith("ext") ? extracted(disk, each.partition()) : disk;
                counts(part, each.partition(), assertInstanceOf(FileSystem.Mapped.class, each.fileSystem(), each::reason));
            }
        }
        if (medium.isSmall()) {
            nothingIsMissedOnceFreeBlocksAreZero(medium, disk, survey);
        }
    }

    private Path extracted(Path disk, Partition partition) {
        Tools.run(folder,
            "rm -f part; dd if=" + disk + " of=part bs=1M iflag=skip_bytes,count_bytes skip=" + partition.startBytes() + " count="
                + partition.sizeBytes()
                + " conv=sparse status=none; truncate -s " + partition.sizeBytes() + " part");
        return folder.resolve("part");
    }

    private void table(Medium medium, Path disk, DiskSurvey survey) throws IOException {
        int sector = medium.sectorBytes();
        assertEquals(sector, survey.sectorBytes());
        assertTrue(survey.table().remarks().isEmpty(), survey.table().remarks()::toString);
        // the dump makes the same table on an empty disk, and what the tool dumps reads as the same table
        Files.writeString(folder.resolve("ours"), SfdiskDump.write(survey.table(), sector));
        String parts = " | sed -n 's/^.*img//p' | tr -s ' '";
        String theirs = Tools.run(folder, medium.dump(disk));
        Path copy = folder.resolve("copy.img");
        assertEquals(Tools.run(folder, medium.dump(disk) + parts),
            Tools.run(folder,
                "truncate -s " + survey.sizeBytes() + " copy.img; " + medium.partition("ours", copy) + "; " + medium.dump(copy) + parts));
        assertEquals(new SfdiskScript(survey.table(), sector), SfdiskScript.read(theirs));
        if (sector == 512) {
            json(disk, survey);
        }
    }

    private void json(Path disk, DiskSurvey survey) throws IOException {
        JsonNode table = new ObjectMapper().readTree(Tools.run(folder, "sfdisk --json " + disk)).get("partitiontable");
        assertEquals(table.get("label").asText().replace("dos", "mbr"), survey.table().scheme());
        assertEquals(table.get("partitions").size(), survey.partitions().size());
        for (int i = 0; i < survey.partitions().size(); i++) {
            Partition ours = survey.partitions().get(i).partition();
            JsonNode theirs = table.get("partitions").get(i);
            assertEquals(theirs.get("start").asLong() * 512, ours.startBytes());
            assertEquals(theirs.get("size").asLong() * 512, ours.sizeBytes());
            assertEquals(theirs.path("name").asText(""), ours.name());
            assertTrue(theirs.get("node").asText().endsWith("img" + ours.number()));
            assertEquals(theirs.get("type").asText().length() == 36 ? theirs.get("type").asText()
                : String.format("%2s", theirs.get("type").asText().toUpperCase())
                    .replace(' ', '0'),
                ours.type().code());
            if (survey.table() instanceof PartitionTable.Gpt) {
                String said = Tools.run(folder, "sgdisk -i " + ours.number() + " " + disk);
                assertEquals(ours.uuid(), find("unique GUID: (\\S+)", said).group(1));
                assertEquals(ours.type().code(), find("GUID code: (\\S+)", said).group(1));
            }
        }
    }

    private void counts(Path part, Partition partition, FileSystem.Mapped ours) {
        switch (ours.kind()) {
            case "vfat" -> {
                String said = Tools.run(folder, "fsck.fat -n -v " + part);
                Matcher clusters = find("(\\d+)/(\\d+) clusters", said);
                assertCounts(ours, find("(\\d+) bytes per cluster", said).group(1), clusters.group(2),
                    "" + (Long.parseLong(clusters.group(2)) - Long.parseLong(clusters.group(1))));
            }
            case "ntfs" -> {
                String said = Tools.run(folder, "ntfsinfo -m " + part);
                assertCounts(ours, find("Cluster Size: (\\d+)", said).group(1), find("Volume Size in Clusters: (\\d+)", said).group(1),
                    find("Free Clusters: (\\d+)", said).group(1));
                assertEquals(find("Free Clusters: (\\d+)", said).group(1),
                    find("clusters of free space +: (\\d+)", Tools.run(folder, "ntfscluster -f " + part)).group(1));
            }
            case "exfat" -> {
                String said = Tools.run(folder, "dump.exfat " + part);
                assertCounts(ours, find("Cluster size:\\s+(\\d+)", said).group(1), find("Total Clusters:\\s+(\\d+)", said).group(1),
                    find("Free Clusters:\\s+(\\d+)", said).group(1));
            }
            default -> {
                String said = Tools.run(folder, "dumpe2fs -h '" + part + "?offset=" + partition.startBytes() + "' 2>&1");
                assertCounts(ours, find("Block size: +(\\d+)", said).group(1), find("Block count: +(\\d+)", said).group(1),
                    find("Free blocks: +(\\d+)", said).group(1));
                eachFreeBlock(part, partition, ours);
            }
        }
    }

    private static void assertCounts(FileSystem.Mapped ours, String blockBytes, String blocks, String free) {
        assertEquals(List.of(blockBytes, blocks, free),
            List.of("" + ours.blockBytes(), "" + (ours.usedBlocks() + ours.freeBlocks()), "" + ours.freeBlocks()));
    }

    /** Not only the counts: the very blocks. */
    private void eachFreeBlock(Path disk, Partition partition, FileSystem.Mapped ours) {
        String listed = Tools.run(folder, "dumpe2fs '" + disk + "?offset=" + partition.startBytes()
            + "' 2>/dev/null | sed -n 's/^  Free blocks: //p' | tr -d ' ' | tr ',' '\\n'");
        for (String range : listed.split("\n")) {
            if (!range.isBlank()) {
                String[] ends = range.split("-");
                long from = Long.parseLong(ends[0]) * ours.blockBytes();
                long to = (Long.parseLong(ends[ends.length - 1]) + 1) * ours.blockBytes();
                assertEquals(0, ours.toRead().bytesWithin(from, to), range);
            }
        }
    }

    private void nothingIsMissedOnceFreeBlocksAreZero(Medium medium, Path disk, DiskSurvey survey) throws IOException {
        Path kept = folder.resolve("kept.img");
        Zeroed.copy(disk, survey.toRead(), kept);
        for (SurveyedPartition each : survey.partitions()) {
            String kind = medium.fileSystem(each.partition().number());
            if (kind.startsWith("ext")) {
                Tools.run(folder,
                    "e2fsck -fn 'kept.img?offset=" + each.partition().startBytes()
                        + "'; for f in sh numbers etc/passwd; do debugfs -R \"cat /$f\" 'kept.img?offset="
                        + each.partition().startBytes() + "' 2>/dev/null | cmp - root/$f; done");
                continue;
            }
            Path part = extracted(kept, each.partition());
            switch (kind) {
                case "vfat" -> Tools.run(folder,
                    "fsck.fat -n part; export MTOOLS_SKIP_CHECK=1; for f in sh numbers etc/passwd; do mcopy -n -i part ::/$f - | cmp - "
                        + "root/$f; done");
                case "ntfs" -> Tools.run(folder,
                    "ntfsfix -n part; ntfsresize --info --force part; ntfscat part sh | cmp - root/sh; ntfscat part later | cmp - root/sh;"
                        + " ntfscat part numbers | cmp - root/numbers; ntfscat part a | cmp - short");
                case "exfat" -> {
                    Tools.run(folder, "fsck.exfat -n part");
                    for (int number = 1; number <= 2; number++) {
                        assertTrue(Zeroed.contains(part, ExfatFiles.content(number)), "file " + number);
                    }
                }
                default -> {
                }
            }
        }
    }

    private static Matcher find(String pattern, String in) {
        Matcher matcher = Pattern.compile(pattern).matcher(in);
        assertTrue(matcher.find(), () -> pattern + " in " + in);
        return matcher;
    }
}
