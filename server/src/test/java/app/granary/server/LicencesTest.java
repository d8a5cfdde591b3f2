package app.granary.server;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;

/**
 * What the server's jar and its pages are made of, from the bill of materials the build makes and from the lock of the web's packages, as
 * docs/licences.md lists it. After a change of either:
 * {@code mvn -pl server -am test -Dtest=LicencesTest -Dsurefire.failIfNoSpecifiedTests=false -Dgranary.licences.write=true}
 */
class LicencesTest {
    private static final Path COMMITTED = Path.of("../docs/licences.md");

    private static String licence(JsonNode component) {
        List<String> out = new ArrayList<>();
        component.path("licenses").forEach(each -> out.add(each.has("expression") ? each.get("expression").asText()
            : each.path("license").path(each.path("license").has("id") ? "id" : "name").asText()));
        return String.join(" or ", out);
    }

    @Test
    void everyPartIsListedWithItsLicence() throws Exception {
        ObjectMapper json = new ObjectMapper();
        TreeSet<String> jars = new TreeSet<>();
        json.readTree(Path.of("target/classes/META-INF/sbom/granary.cdx.json").toFile()).path("components").forEach(each -> {
            String group = each.path("group").asText();
            if (!group.equals("app.granary")) {
                jars.add(
                    "| " + group + ":" + each.path("name").asText() + " | " + each.path("version").asText() + " | " + licence(each) + " |");
            }
        });
        TreeSet<String> packages = new TreeSet<>();
        json.readTree(Path.of("../web/package-lock.json").toFile()).path("packages").fields().forEachRemaining(each -> {
            boolean shipped = !each.getKey().isEmpty() && !each.getValue().path("dev").asBoolean()
                && !each.getValue().path("optional").asBoolean() && !each.getValue().path("peer").asBoolean();
            if (shipped) {
                packages.add("| " + each.getKey().replaceFirst("^.*node_modules/", "") + " | " + each.getValue().path("version").asText()
                    + " | " + each.getValue().path("license").asText() + " |");
            }
        });
        assertTrue(jars.size() > 50 && packages.size() > 10, jars.size() + " and " + packages.size());
        assertTrue(StreamSupport.stream(jars.spliterator(), false).noneMatch(each -> each.endsWith("|  |")),
            "a part without a licence: " + jars);
        String current = "# What Granary is made of\n\nGranary itself is under the Apache License 2.0. The server's jar holds its bill "
            + "of materials (CycloneDX) in `META-INF/sbom/granary.cdx.json`; this list is made of it and of "
            + "`web/package-lock.json` by the build.\n\n## The server\n\n| Part | Version | Licence |\n| --- | --- | --- |\n"
            + String.join("\n", jars) + "\n\n## The pages\n\n| Part | Version | Licence |\n| --- | --- | --- |\n"
            + String.join("\n", packages) + "\n";
        if (Boolean.getBoolean("granary.licences.write")) {
            Files.writeString(COMMITTED, current);
        }
        assertEquals(Files.readString(COMMITTED), current);
    }
}
