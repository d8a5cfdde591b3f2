package app.granary.server.office;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.endsWith;
import static org.hamcrest.Matchers.is;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.server.home.GranarySettings;
import app.granary.server.ServerTestBase;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.ResultActions;

/** The office's settings, its cards on every drive, its labels, and the copy of its database on a drive of choice. */
@WithMockUser(username = "technician", roles = "TECHNICIAN")
class OfficeChoicesWireTest extends ServerTestBase {
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;
    @Autowired
    private GranarySettings settings;

    private JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse()
            .getContentAsString(java.nio.charset.StandardCharsets.UTF_8));
    }

    private ResultActions choose(JsonNode form, String version) throws Exception {
        return http.perform(put("/api/v1/office/choices").with(csrf().asHeader()).header("If-Match", "\"" + version + "\"")
            .contentType(MediaType.APPLICATION_JSON).content(form.toString()));
    }

    private ObjectNode form() throws Exception {
        return (ObjectNode) read("/api/v1/office/choices").get("form");
    }

    @Test
    void whatIsChosenHoldsForPlansThatSayNothingOfTheirOwn() throws Exception {
        JsonNode before = read("/api/v1/office/choices");
        ObjectNode form = form();
        form.put("weekly", 6).put("copiesTo", "cairn").put("units", "binary").put("trashDays", 3);
        choose(form, before.get("version").asText()).andExpect(status().isOk())
            .andExpect(jsonPath("$.policy", containsString("7 days, 6 weeks and 12 months")));
        choose(form, before.get("version").asText()).andExpect(status().isPreconditionFailed());
        assertTrue(read("/api/v1/retention").get("policy").asText().contains("6 weeks"));
        assertEquals("binary", read("/api/v1/office").get("units").asText());
        String copied = json.readTree(http.perform(post("/api/v1/database/copies").with(csrf().asHeader())).andExpect(status().isOk())
            .andReturn().getResponse().getContentAsString()).get("sentence").asText();
        assertTrue(copied.contains("Read back: ") && copied.contains("It also lies on CAIRN, in granary-office."), copied);
        try (Stream<Path> files = Files.list(settings.home().resolve("office/drives/cairn/granary-office"))) {
            assertTrue(files.anyMatch(file -> file.getFileName().toString().matches("granary-\\d{8}T\\d{6}Z\\.zip")));
        }
        assertTrue(!read("/api/v1/database").get("newest").isNull());
    }

    @Test
    void whatCannotBeIsRefusedWithItsField() throws Exception {
        String version = read("/api/v1/office/choices").get("version").asText();
        choose(form().put("copiesTo", "nowhere"), version).andExpect(status().isBadRequest())
            .andExpect(jsonPath("$.field", is("copiesTo")));
        choose(form().put("daily", 5000), version).andExpect(status().isBadRequest()).andExpect(jsonPath("$.type", endsWith("bad-choice")));
        choose(form().put("leastProven", 0), version).andExpect(status().isBadRequest());
        choose(form().put("minimumDays", 30).put("maximumDays", 7), version).andExpect(status().isBadRequest());
        for (String none : new String[] {"nobody in particular", "desk@marrowby", "a@b.example, c@d.example"}) {
            choose(form().put("mailTo", none), version).andExpect(status().isBadRequest()).andExpect(jsonPath("$.field", is("mailTo")))
                .andExpect(jsonPath("$.detail", is("\"" + none + "\" is no mail address. Write it like name@office.example.")));
        }
        choose(form().put("name", " "), version).andExpect(status().isBadRequest());
        choose(form().put("units", "imperial"), version).andExpect(status().isBadRequest());
    }

    @Test
    void cardsLieOnEveryDriveAsPlainPagesAndMarkupInThemIsText() throws Exception {
        JsonNode booklet = read("/api/v1/cards");
        for (int i = 0; i < 300 && booklet.get("cards").size() < 9; i++) {
            Thread.sleep(100);
            booklet = read("/api/v1/cards");
        }
        JsonNode gnomon = Stream.iterate(0, i -> i + 1).limit(booklet.get("cards").size()).map(booklet.get("cards")::get)
            .filter(card -> card.get("computer").asText().equals("GNOMON")).findFirst().orElseThrow();
        String id = gnomon.get("computerId").asText();
        JsonNode detail = read("/api/v1/computers/" + id);
        ObjectNode form = ((ObjectNode) detail.get("form")).put("owner", "<b>the \"drawing\" room</b> & co");
        http.perform(put("/api/v1/computers/" + id).with(csrf().asHeader()).header("If-Match", "\"" + detail.get("version").asText() + "\"")
            .contentType(MediaType.APPLICATION_JSON).content(form.toString())).andExpect(status().isOk());
        assertEquals("GNOMON", read("/api/v1/cards/" + id).get("computer").asText());
        http.perform(post("/api/v1/cards/export").with(csrf().asHeader())).andExpect(status().isOk())
            .andExpect(jsonPath("$.sentence", containsString("Not on OUTPOST")));
        for (String drive : new String[] {"peg-1", "peg-3", "cairn"}) {
            String html = Files
                .readString(settings.home().resolve("office/drives").resolve(drive).resolve("granary-office/if-it-dies-today.html"));
            assertTrue(html.contains("&lt;b&gt;the &quot;drawing&quot; room&lt;/b&gt; &amp; co") && !html.contains("<b>the"),
                html.substring(0, 500));
            assertTrue(html.contains("sha256sum -c manifest-sha256.txt"));
        }
        http.perform(get("/api/v1/cards/" + java.util.UUID.randomUUID())).andExpect(status().isNotFound());
    }

    @Test
    void filesSavedAreNotedForADayThatHasBeen() throws Exception {
        for (int i = 0; i < 300 && read("/api/v1/computers").get("computers").size() < 9; i++) {
            Thread.sleep(100);
        }
        String id = read("/api/v1/computers").get("computers").get(0).get("id").asText();
        http.perform(put("/api/v1/computers/" + id + "/files-saved").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content(json.writeValueAsString(Map.of("on", "2026-01-02", "how", "to CAIRN"))))
            .andExpect(status().isOk()).andExpect(jsonPath("$.filesSavedOn", is("2026-01-02")))
            .andExpect(jsonPath("$.filesNote", is("to CAIRN")));
        http.perform(put("/api/v1/computers/" + id + "/files-saved").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content("{\"on\":\"2999-01-01\",\"how\":\"\"}"))
            .andExpect(status().isBadRequest()).andExpect(jsonPath("$.detail", containsString("yet to come")));
    }

    @Test
    void aDriveHasALabelAndIsTakenElsewhere() throws Exception {
        http.perform(get("/api/v1/labels/peg-1/code.svg")).andExpect(status().isOk())
            .andExpect(result -> assertEquals("image/svg+xml", result.getResponse().getContentType()));
        assertEquals("granary drive PEG-1 peg-1", read("/api/v1/labels/peg-1").get("code").asText());
        http.perform(get("/api/v1/labels/none")).andExpect(status().isNotFound());
        http.perform(post("/api/v1/destinations/peg-1/place").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content("{\"kind\":\"safe\",\"exactly\":\"shelf 2\"}"))
            .andExpect(status().isOk()).andExpect(jsonPath("$.placeText", is("in the fire safe, shelf 2")));
        assertTrue(read("/api/v1/journal?text=in the fire safe, shelf 2").get("lines").size() > 0);
        http.perform(post("/api/v1/destinations/peg-1/place").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content("{\"kind\":\"moon\",\"exactly\":\"\"}")).andExpect(status().isBadRequest());
        http.perform(post("/api/v1/destinations/peg-1/place").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content("{\"kind\":\"here\",\"exactly\":\"\"}")).andExpect(status().isOk());
    }
}
