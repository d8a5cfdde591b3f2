package app.granary.server;

import static org.junit.jupiter.api.Assertions.assertEquals;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/**
 * The picture of packages and arrows in docs/architecture.md is what the classes say; {@code -Dgranary.architecture.write=true} draws it
 * anew.
 */
class PictureTest {
    private static final Path DOC = Path.of("..", "docs", "architecture.md");
    private static final String BEGIN = "<!-- drawn by PictureTest -->\n";
    private static final String END = "<!-- end of the drawing -->";
    /** Tests that other modules use come as folders or, once they are packed, as a JAR: they are tests in both. */
    private static final ImportOption NOT_FROM_TEST_JARS = location -> !location.contains("-tests.jar");

    @Test
    void theArrowsAreAsDrawn() throws IOException {
        String doc = Files.readString(DOC);
        int from = doc.indexOf(BEGIN) + BEGIN.length();
        String drawn = drawing(new ClassFileImporter().withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .withImportOption(NOT_FROM_TEST_JARS).importPackages("app.granary"));
        if (Boolean.getBoolean("granary.architecture.write")) {
            Files.writeString(DOC, doc.substring(0, from) + drawn + doc.substring(doc.indexOf(END)));
        }
        assertEquals(drawn, Files.readString(DOC).substring(from, Files.readString(DOC).indexOf(END)));
    }

    private static String drawing(JavaClasses classes) {
        StringBuilder out = new StringBuilder();
        for (String module : new String[] {"core", "engine", "server"}) {
            Map<String, Set<String>> arrows = new TreeMap<>();
            classes.stream().filter(each -> !room(each.getPackageName(), module).isEmpty()).forEach(each -> {
                Set<String> to = arrows.computeIfAbsent(room(each.getPackageName(), module), room -> new TreeSet<>());
                each.getDirectDependenciesFromSelf().stream()
                    .map(arrow -> room(arrow.getTargetClass().getBaseComponentType().getPackageName(), module))
                    .filter(room -> !room.isEmpty()).forEach(to::add);
            });
            arrows.forEach((room, to) -> to.remove(room));
            out.append("\n### ").append(module).append("\n\n");
            floors(arrows).forEach((floor, rooms) -> rooms.forEach(room -> out.append(floor).append(". `").append(room).append('`')
                .append(arrows.get(room).isEmpty() ? ""
                    : " uses " + arrows.get(room).stream().map(to -> "`" + to + "`").collect(Collectors.joining(", ")))
                .append('\n')));
        }
        return out.append('\n').toString();
    }

    /** @return the part of a package's name behind its module's; an empty string for one of another module */
    private static String room(String packageName, String module) {
        String before = "app.granary." + module + ".";
        return packageName.startsWith(before) ? packageName.substring(before.length()).split("\\.")[0] : "";
    }

    /** A room stands one floor above the highest it uses. */
    private static Map<Integer, Set<String>> floors(Map<String, Set<String>> arrows) {
        Map<Integer, Set<String>> out = new TreeMap<>();
        arrows.keySet().forEach(room -> out.computeIfAbsent(floor(room, arrows), floor -> new TreeSet<>()).add(room));
        return out;
    }

    private static int floor(String room, Map<String, Set<String>> arrows) {
        return arrows.get(room).stream().mapToInt(to -> floor(to, arrows) + 1).max().orElse(1);
    }
}
