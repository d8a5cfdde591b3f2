package app.granary.engine.media;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionTables;
import app.granary.core.disk.PartitionType;
import app.granary.core.disk.SfdiskScript;
import app.granary.core.disk.TableSectors;
import app.granary.core.disk.TableWriter;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Tables Granary writes, as sfdisk and sgdisk read them; and its words for types against sfdisk's. */
class TablesAgainstSfdiskTest {
    @TempDir
    Path folder;

    /**
     * Every table of the media, written anew onto a larger empty disk: sfdisk lists the same partitions, sgdisk finds both copies sound.
     */
    @ParameterizedTest
    @EnumSource(value = Medium.class, names = {"GPT_EXT4_AND_FAT", "GPT_FIRMWARE_RESERVED_MAIN_RECOVERY", "MBR_EXT2_AND_LOGICAL",
        "MBR_FOUR_LOGICAL", "MBR_FAT16", "GPT_SWAP", "GPT_EXT4_4K_SECTORS"})
    void sfdiskAcceptsEveryTableWritten(Medium medium) throws IOException {
        Path disk = medium.make(folder);
        Path larger = folder.resolve("larger.img");
        PartitionTable table;
        try (RawSource source = RawSource.open(disk)) {
            table = PartitionTables.read(source);
            long bytes = source.sizeBytes() + 64L * 1024 * 1024;
            try (FileChannel channel = FileChannel.open(larger, StandardOpenOption.CREATE, StandardOpenOption.WRITE)) {
                for (TableSectors each : TableWriter.write(table, bytes, medium.sectorBytes(), new byte[0])) {
                    channel.write(ByteBuffer.wrap(each.content()), each.offsetBytes());
                }
                channel.write(ByteBuffer.allocate(channel.size() < bytes ? 1 : 0), bytes - 1);
            }
        }
        SfdiskScript read = SfdiskScript.read(Tools.run(folder, medium.dump(larger)));
        assertEquals(table.partitions(), read.table().partitions());
        if (medium.sectorBytes() == 512) {
            String said = Tools.run(folder, "sfdisk --verify larger.img 2>&1");
            assertTrue(said.contains("No errors detected"), said);
            if (table instanceof PartitionTable.Gpt) {
                assertTrue(Tools.run(folder, "sgdisk -v larger.img").contains("No problems found"));
            }
        }
    }

    @Test
    void wordsForTypesAreThoseOfSfdisk() {
        Map<String, String> theirs = new TreeMap<>();
        for (String line : (Tools.run(folder, "sfdisk -X gpt -T") + Tools.run(folder, "sfdisk -X dos -T")).split("\n")) {
            String[] words = line.strip().split("\\s+", 2);
            if (words.length == 2 && !words[0].equals("Id")) {
                theirs.put(words[0].length() == 1 ? "0" + words[0].toUpperCase() : words[0].toUpperCase(), words[1]);
            }
        }
        for (PartitionType ours : PartitionType.known()) {
            assertEquals(theirs.get(ours.code()), ours.name(), ours.code());
        }
    }
}
