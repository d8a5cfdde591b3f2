package app.granary.engine.elsewhere;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.engine.media.Tools;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class PartSetsTest {
    @TempDir
    Path folder;

    /** The order split wrote them in, by what it wrote into them: 800 parts with a number each, of every way it has to name them. */
    @ParameterizedTest
    @ValueSource(strings = {"", "-d", "-a 3", "-d -a 4", "-a 5", "--numeric-suffixes=1 -a 3"})
    void partsComeInTheOrderSplitWroteThem(String options) {
        Tools.run(folder, "seq -w 0 799 | split -l 1 " + options + " - disk.img.");
        List<String> names = new ArrayList<>(List.of(Tools.run(folder, "ls").split("\n")));
        Collections.shuffle(names, new Random(3));
        PartSets.Set set = PartSets.of(names).get(0);
        assertEquals(800, set.files().size());
        assertEquals("disk.img", set.name());
        assertEquals("", set.gap());
        assertEquals(Tools.run(folder, "seq -w 0 799"), Tools.run(folder, "cat " + String.join(" ", set.files())));
        List<String> without = new ArrayList<>(set.files());
        String before = without.get(400);
        without.remove(401);
        assertEquals(before, PartSets.of(without).get(0).gap());
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "a.1 a.2 a.10 a.3 a.4 a.5 a.6 a.7 a.8 a.9 | a: a.1 a.2 a.3 a.4 a.5 a.6 a.7 a.8 a.9 a.10",
        "a.001                                     | a: a.001",
        "a.part1 a.part2                           | a: a.part1 a.part2",
        "img.2023 img.2024                         | img.2023: img.2023, img.2024: img.2024",
        "disk.img disk.gz a.zst                    | a.zst: a.zst, disk.gz: disk.gz, disk.img: disk.img",
        "a.1                                       | a.1: a.1",
        "x-aa x-ab y.img                           | x: x-aa x-ab, y.img: y.img"})
    void whatLooksLikePartsAndIsNoneStandsAlone(String names, String expected) {
        List<String> told = PartSets.of(List.of(names.trim().split(" "))).stream()
            .map(set -> set.name() + ": " + String.join(" ", set.files())).sorted().toList();
        assertEquals(expected, String.join(", ", told));
    }

    @Test
    void anyNamesAtAllAreEachInOneSet() {
        Random random = new Random(7);
        for (int round = 0; round < 300; round++) {
            List<String> names = random.ints(1 + random.nextInt(30))
                .mapToObj(n -> "d" + ".-_part".charAt(Math.abs(n % 7)) + Integer.toString(Math.abs(n % 4000), 10 + Math.abs(n % 26)))
                .distinct().toList();
            List<String> out = PartSets.of(names).stream().flatMap(set -> set.files().stream()).sorted().toList();
            assertEquals(names.stream().sorted().toList(), out);
        }
        assertTrue(PartSets.of(List.of()).isEmpty());
    }
}
