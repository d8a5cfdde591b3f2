package app.granary.engine.media;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.Partition;
import app.granary.core.disk.SfdiskDump;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.FileSystem;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.engine.source.RawSource;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What Granary says of a disk against what sfdisk (util-linux), dumpe2fs (e2fsprogs) and fsck.fat (dosfstools) say of the same bytes. */
class InspectAgainstToolsTest {
    @TempDir
    Path folder;

    @ParameterizedTest
    @EnumSource(Medium.class)
    void agreesWithTheSystemsTools(Medium medium) throws IOException {
        Path disk = medium.make(folder);
        try (RawSource source = RawSource.open(disk)) {
            DiskSurvey survey = DiskSurvey.of(source, false);
            table(disk, survey);
            for (SurveyedPartition each : survey.partitions()) {
                if (each.fileSystem() instanceof FileSystem.Mapped mapped) {
                    blocks(disk, each.partition(), mapped);
                } else {
                    assertTrue(each.partition().container(), each.partition().label() + " is read whole: " + each.reason());
                }
            }
        }
    }

    private void table(Path disk, DiskSurvey survey) throws IOException {
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
            assertEquals(theirs.get("type").asText().length() == 36 ? theirs.get("type").asText() : String.format("%2s", theirs.get("type").asText().toUpperCase())
                .replace(' ', '0'), ours.type().code());
        }
        // the dump makes the same table on an empty disk
        Path dump = folder.resolve("dump");
        Files.writeString(dump, SfdiskDump.write(survey.table(), 512));
        String parts = " | sed -n 's/^.*img//p' | tr -s ' '";
        assertEquals(Tools.run(folder, "sfdisk -d " + disk + parts), Tools.run(folder, "truncate -s " + survey.sizeBytes() + " copy.img; sfdisk -q copy.img < dump; sfdisk -d copy.img" + parts));
    }

    private void blocks(Path disk, Partition partition, FileSystem.Mapped ours) {
        if (ours.kind().equals("vfat")) {
            String said = Tools.run(folder, "dd if=" + disk + " of=part bs=1M iflag=skip_bytes,count_bytes skip=" + partition.startBytes() + " count=" + partition.sizeBytes()
                + " conv=sparse status=none; fsck.fat -n -v part");
            Matcher clusters = find("(\\d+)/(\\d+) clusters", said);
            assertEquals(Long.parseLong(clusters.group(1)), ours.usedBlocks());
            assertEquals(Long.parseLong(clusters.group(2)), ours.usedBlocks() + ours.freeBlocks());
            assertEquals(Long.parseLong(find("(\\d+) bytes per cluster", said).group(1)), ours.blockBytes());
        } else {
            String said = Tools.run(folder, "dumpe2fs -h '" + disk + "?offset=" + partition.startBytes() + "' 2>&1");
            long free = Long.parseLong(find("Free blocks: +(\\d+)", said).group(1));
            assertEquals(free, ours.freeBlocks());
            assertEquals(Long.parseLong(find("Block count: +(\\d+)", said).group(1)), ours.usedBlocks() + free);
            assertEquals(Long.parseLong(find("Block size: +(\\d+)", said).group(1)), ours.blockBytes());
            eachFreeBlock(disk, partition, ours);
        }
    }

    /** Not only the counts: the very blocks. */
    private void eachFreeBlock(Path disk, Partition partition, FileSystem.Mapped ours) {
        String listed = Tools.run(folder, "dumpe2fs '" + disk + "?offset=" + partition.startBytes() + "' 2>/dev/null | sed -n 's/^  Free blocks: //p' | tr -d ' ' | tr ',' '\\n'");
        for (String range : listed.split("\n")) {
            if (!range.isBlank()) {
                String[] ends = range.split("-");
                long from = Long.parseLong(ends[0]) * ours.blockBytes();
                long to = (Long.parseLong(ends[ends.length - 1]) + 1) * ours.blockBytes();
                assertEquals(0, ours.toRead().bytesWithin(from, to), range);
            }
        }
    }

    private static Matcher find(String pattern, String in) {
        Matcher matcher = Pattern.compile(pattern).matcher(in);
        assertTrue(matcher.find(), () -> pattern + " in " + in);
        return matcher;
    }
}
