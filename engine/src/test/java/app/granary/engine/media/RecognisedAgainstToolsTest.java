package app.granary.engine.media;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.filesystem.FileSystem;
import app.granary.core.filesystem.FileSystems;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import java.nio.file.Path;

/**
 * What is only recognised, on media made by the formats' own tools: the kind against blkid (util-linux), used bytes against each format's
 * own printing of them.
 */
@Tag("large")
class RecognisedAgainstToolsTest {
    @TempDir
    Path folder;

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "btrfs|btrfs|130M|mkdir root; cp /usr/bin/bash root; mkfs.btrfs -q -r root m.img|btrfs inspect-internal dump-super "
            + "m.img|^bytes_used\\s+(\\d+)|1",
        "xfs|xfs|320M|mkfs.xfs -q m.img|xfs_db -r -c 'sb 0' -c p m.img|dblocks = (\\d+)[\\s\\S]*fdblocks = (\\d+)|4096",
        "luks|crypto_LUKS|20M|printf x > key; cryptsetup -q luksFormat --type luks2 --pbkdf pbkdf2 --pbkdf-force-iterations 1000 m.img "
            + "key|true||0",
    })
    void kindAndUsedBytes(String kind, String theirs, String size, String make, String tool, String pattern, String unit)
        throws IOException {
        Tools.run(folder, "truncate -s " + size + " m.img; " + make);
        FileSystem found;
        try (RawSource source = RawSource.open(folder.resolve("m.img"))) {
            found = FileSystems.probe(source, 0, source.sizeBytes());
        }
        assertEquals(kind, found.kind());
        assertEquals(theirs, Tools.run(folder, "blkid -p -o value -s TYPE m.img").strip());
        assertTrue(found instanceof FileSystem.Whole);
        if (pattern == null) {
            assertTrue(found.usedBytes().isEmpty());
            return;
        }
        Matcher said = Pattern.compile(pattern, Pattern.MULTILINE).matcher(Tools.run(folder, tool));
        assertTrue(said.find());
        long used = switch (unit) {
            case "1" -> Long.parseLong(said.group(1));
            default -> (Long.parseLong(said.group(1)) - Long.parseLong(said.group(2))) * Long.parseLong(unit);
        };
        assertEquals(used, found.usedBytes().orElseThrow());
    }
}
