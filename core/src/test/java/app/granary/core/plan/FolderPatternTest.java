package app.granary.core.plan;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.FaultException;
import app.granary.core.image.FolderName;
import java.io.IOException;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FolderPatternTest {
    private static final ZoneId BERLIN = ZoneId.of("Europe/Berlin");

    private static FolderPattern.Words words(String computer, String maker, String model, String system) {
        return new FolderPattern.Words(computer, maker, model, system, "system disk", Instant.parse("2026-12-31T23:30:00Z"), BERLIN);
    }

    /** The year is the office's: half past midnight there is still the old one in UTC. */
    @ParameterizedTest
    @CsvSource(delimiter = '|', nullValues = "-", value = {
        "{maker}/{model}/{computer} | Fulmar/Tern-40/CONTOUR | A folder for each maker, in it one for each model, in it one for each "
            + "computer.",
        "/{computer}-{disk}/{year}/ | CONTOUR-system-disk/2027 | A folder for each computer and disk, in it one for each year.",
        "disk images/{system} | disk images/Harrow-11-build-22631 | A folder named disk images, in it one for each system and build.",
        "'' | '' | In Granary's own folder on the drive."})
    void wordsStandForWhatIsKnown(String text, String folder, String sentence) throws IOException {
        FolderPattern pattern = FolderPattern.parse(text);
        assertEquals(folder, pattern.folder(words("CONTOUR", "Fulmar", "Tern 40", "Harrow 11 (build 22631)")));
        assertEquals(sentence, pattern.sentence());
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "{owner}/{computer} | \"{owner}\" stands for nothing in a folder",
        "{computer | A brace in the folder is not closed",
        "../{computer} | is no folder that every drive takes",
        "{computer}/con | is no folder that every drive takes",
        "{computer}//x | is no folder that every drive takes",
        "a/b/c/d/e/f/{computer} | at most 6 deep"})
    void whatSomeFileSystemDoesNotTakeIsRefused(String text, String says) {
        assertTrue(assertThrows(FaultException.class, () -> FolderPattern.parse(text)).getMessage().contains(says), text);
    }

    /** Whatever a computer is called, the folder is one that every file system takes, and never deeper or shallower than asked. */
    @Test
    void everyComputerGetsAFolderEveryFileSystemTakes() throws IOException {
        String[] parts = {"", "con", "NUL", "a/b", "..", "x.", " ", "\u0000", "Ü", "長い名前", "\uD83D\uDDA5",
            "lpt1", "aux.txt", "-", ".partial",
            "very long name of a maker who likes words"};
        String[] steps = {"{computer}", "{maker}-{model}", "{system}", "{disk} of {computer}", "{year}", "kept.{model}", "{model}.partial"};
        Random random = new Random(20);
        for (int i = 0; i < 20_000; i++) {
            int depth = 1 + random.nextInt(6);
            StringBuilder text = new StringBuilder(steps[random.nextInt(steps.length)]);
            for (int step = 1; step < depth; step++) {
                text.append('/').append(steps[random.nextInt(steps.length)]);
            }
            FolderPattern pattern;
            try {
                pattern = FolderPattern.parse(text.toString());
            } catch (FaultException refused) {
                continue;
            }
            String folder = pattern.folder(words(some(parts, random), some(parts, random), some(parts, random), some(parts, random)));
            assertEquals(folder, FolderName.parse(folder).text(), text.toString());
            assertEquals(depth, folder.split("/", -1).length, folder);
        }
    }

    private static String some(String[] parts, Random random) {
        return parts[random.nextInt(parts.length)] + parts[random.nextInt(parts.length)];
    }
}
