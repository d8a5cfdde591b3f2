package app.granary.server;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** What the handbook calls a button, a page or a choice is called so on the screen, and what README and handbook lead to is there. */
class HandbookTest {
    private static final Path ROOT = Path.of("..");
    private static final Path PAGES = ROOT.resolve("docs/handbook");
    private static final Pattern LABEL = Pattern.compile("(?<!\\*)\\*([^*\\n]+)\\*(?!\\*)");
    private static final Pattern LINK = Pattern.compile("\\]\\(([^)#:]+)[^)]*\\)");
    /** Made of a name, so that they stand nowhere as they are. */
    private static final Set<String> MADE_OF_NAMES = Set.of("in TRIPOD", "NAME, in a shell");

    private static List<Path> files(Path folder, String... endings) throws IOException {
        try (Stream<Path> walk = Files.walk(folder)) {
            return walk.filter(each -> Stream.of(endings).anyMatch(each.toString()::endsWith)).sorted().toList();
        }
    }

    /** In lower case, with spaces for breaks of lines, and strings in one piece. */
    private static String plain(String text) {
        return text.replaceAll("[\"']\\s*\\+\\s*[\"']", "").replaceAll("\\s+", " ").toLowerCase(Locale.ROOT);
    }

    @Test
    void everyLabelStandsOnTheScreen() throws IOException {
        StringBuilder sources = new StringBuilder();
        for (String each : new String[] {"web/src", "server/src/main/java", "core/src/main/java"}) {
            for (Path file : files(ROOT.resolve(each), ".vue", ".ts", ".java")) {
                sources.append(plain(Files.readString(file))).append('\n');
            }
        }
        List<String> unknown = new ArrayList<>();
        int labels = 0;
        for (Path page : files(PAGES, ".md")) {
            Matcher label = LABEL.matcher(Files.readString(page).replaceAll("(?s)```.*?```", ""));
            for (; label.find(); labels++) {
                String word = label.group(1).strip().replaceAll("[.,]$", "");
                if (!MADE_OF_NAMES.contains(word) && sources.indexOf(plain(word)) < 0) {
                    unknown.add(page.getFileName() + ": " + word);
                }
            }
        }
        assertTrue(labels > 100, labels + " labels");
        assertEquals(List.of(), unknown);
    }

    @Test
    void everyLinkLeadsSomewhere() throws IOException {
        List<Path> pages = new ArrayList<>(files(ROOT.resolve("docs"), ".md"));
        pages.add(ROOT.resolve("README.md"));
        List<String> dead = new ArrayList<>();
        for (Path page : pages) {
            Matcher link = LINK.matcher(Files.readString(page));
            while (link.find()) {
                if (!Files.exists(page.resolveSibling(link.group(1)))) {
                    dead.add(page + ": " + link.group(1));
                }
            }
        }
        assertEquals(List.of(), dead);
        String start = Files.readString(ROOT.resolve("docs/handbook.md"));
        assertTrue(files(PAGES, ".md").stream().allMatch(each -> start.contains("(handbook/" + each.getFileName() + ")")),
            "each page is led to from the first");
    }
}
