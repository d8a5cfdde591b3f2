package app.granary.demo;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.engine.media.OncePerBuild;
import app.granary.server.Server;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.autoconfigure.web.servlet.AutoConfigureMockMvc;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.web.servlet.MockMvc;

/** The made-up past is a past: in order, sealed, provable, with the troubles it is said to have, and laid once. */
@Tag("large")
@SpringBootTest(classes = Server.class,
    properties = {"granary.demo=true", "granary.history=true", "granary.pace=1000", "granary.now=2026-11-25T09:10:00Z"})
@AutoConfigureMockMvc
@WithMockUser(username = "technician", roles = "TECHNICIAN")
class DemoHistoryTest {
    private static final Instant NOW = Instant.parse("2026-11-25T09:10:00Z");

    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;
    @Autowired
    private DemoHistory history;

    @DynamicPropertySource
    static void home(DynamicPropertyRegistry registry) throws IOException {
        Path home = Files.createTempDirectory(Path.of("target"), "past").toAbsolutePath();
        OncePerBuild.office(home.resolve("office"));
        Runtime.getRuntime().addShutdownHook(new Thread(() -> org.springframework.util.FileSystemUtils.deleteRecursively(home.toFile())));
        registry.add("granary.home", home::toString);
        if (System.getProperty("granary.office") != null) {
            registry.add("granary.past", () -> System.getProperty("granary.office") + "/past");
        }
    }

    private JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    @Test
    void threeMonthsWithTheirTroubles() throws Exception {
        JsonNode images = read("/api/v1/images");
        assertTrue(images.size() > 40, "" + images.size());
        Set<String> damaged = new TreeSet<>();
        Instant oldest = NOW;
        for (JsonNode image : images) {
            Instant made = Instant.parse(image.get("madeAt").asText());
            assertTrue(made.isBefore(NOW), image.toString());
            oldest = made.isBefore(oldest) ? made : oldest;
            if (image.get("damaged").asBoolean()) {
                damaged.add(image.get("computer").asText() + " on " + image.get("destination").asText());
            }
            boolean inside = image.get("lowBytes").asLong() <= image.get("storedBytes").asLong() * 1.1
                && image.get("storedBytes").asLong() <= image.get("highBytes").asLong() * 1.1;
            assertTrue(inside || !image.get("origin").asText().equals("made"), "an estimate is near what came: " + image);
        }
        assertEquals(Set.of("LEDGER on PEG-2"), damaged);
        assertTrue(Duration.between(oldest, NOW).toDays() > 60, oldest.toString());

        JsonNode today = read("/api/v1/today");
        Set<String> kinds = new TreeSet<>();
        today.get("todos").forEach(each -> kinds.add(each.get("kind").asText()));
        assertEquals(Set.of("damaged", "failed", "overdue", "place", "files", "copy"), kinds);
        Set<String> late = new TreeSet<>();
        today.get("cover").forEach(each -> {
            if (each.get("state").asText().equals("late")) {
                late.add(each.get("computer").asText());
            }
            assertEquals("", each.get("places").asText(), each.toString());
        });
        assertEquals(Set.of("THEODOLITE", "TRIPOD"), late);
    }

    @Test
    void theMailsOfTheLastThreeNightsLieInTheOutbox() throws Exception {
        JsonNode mails = read("/api/v1/mail");
        assertEquals(3, mails.size(), mails.toString());
        Instant later = NOW;
        for (JsonNode mail : mails) {
            Instant at = Instant.parse(mail.get("at").asText());
            assertTrue(at.isBefore(later) && at.isAfter(NOW.minus(Duration.ofDays(10))), mails.toString());
            assertTrue(mail.get("subject").asText().startsWith("Night of ") && mail.get("text").asText().contains("Made  "), "" + mail);
            later = at;
        }
    }

    @Test
    void theJournalIsInOrderSealedAndNotFromTheFuture() throws Exception {
        JsonNode check = read("/api/v1/journal/check");
        assertTrue(check.get("whole").asBoolean(), check.toString());
        Instant later = NOW.plus(Duration.ofMinutes(30));
        for (long before = Long.MAX_VALUE; before > 1;) {
            JsonNode lines = read("/api/v1/journal?before=" + before).get("lines");
            for (JsonNode line : lines) {
                Instant at = Instant.parse(line.get("at").asText());
                assertTrue(!at.isAfter(later), line + " after " + later);
                later = at;
                before = line.get("id").asLong();
            }
        }
        long lines = read("/api/v1/journal").get("total").asLong();
        history.lay();
        assertEquals(lines, read("/api/v1/journal").get("total").asLong(), "a past is laid once");
    }

    @Test
    void itsImagesTellOfThemselvesAndFillNoDriveFurther() throws Exception {
        JsonNode gnomon = read("/api/v1/images/page?text=GNOMON cairn").get("lines").get(0);
        JsonNode facts = read("/api/v1/images/" + gnomon.get("id").asText() + "/facts");
        assertTrue(facts.get("parts").size() > 0 && facts.get("partitions").size() > 0, facts.toString());
        for (JsonNode drive : read("/api/v1/destinations")) {
            assertTrue(drive.get("freeBytes").asLong() > 0 && drive.get("moves").size() + drive.get("images").asInt() > 0,
                drive.toString());
        }
    }
}
