package app.granary.engine.files;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

class FolderPageTest {
    private static final String[] LETTERS = {"a", "A", "b", "ä", "Ä", "\0", "1", " ", "長", "\uD83D\uDE00", ".", "name-"};

    private static FileLine line(String name, boolean folder) {
        return new FileLine("", name, folder ? "folder" : "file", 0, Instant.EPOCH, "", 1);
    }

    /** The order is that of the plain rule, however it is reached: folders first, by their names in any case, then by the names. */
    @Test
    void namesComeInTheOrderOfThePlainRule() {
        Comparator<FileLine> plain = Comparator.comparing((FileLine each) -> !each.leadsDown())
            .thenComparing(each -> each.name().toLowerCase(Locale.ROOT)).thenComparing(FileLine::name);
        SplittableRandom random = new SplittableRandom(20);
        for (int round = 0; round < 400; round++) {
            String all = round % 3 == 0 ? "name-" : "";
            List<FileLine> lines = new ArrayList<>();
            for (int i = random.nextInt(round % 50 == 0 ? 9_000 : 40); i > 0; i--) {
                StringBuilder name = new StringBuilder(all);
                for (int letters = random.nextInt(9); letters > 0; letters--) {
                    name.append(LETTERS[random.nextInt(LETTERS.length)]);
                }
                lines.add(line(name.toString(), random.nextInt(4) == 0));
            }
            assertEquals(lines.stream().sorted(plain).toList(), FolderPage.inOrder(lines));
        }
    }
}
