package app.granary.server.night;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.hasItem;
import static org.hamcrest.Matchers.is;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.server.ServerTestBase;
import app.granary.server.destination.Promises;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.charset.StandardCharsets;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.TemporalAdjusters;
import java.util.List;
import java.util.Map;
import java.util.HashMap;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.ResultActions;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

@WithMockUser(username = "technician", roles = "TECHNICIAN")
class NightTest extends ServerTestBase {
    /** Far enough off that the clock does not matter. */
    private static final LocalDate TUESDAY = LocalDate.now().plusDays(7).with(TemporalAdjusters.nextOrSame(DayOfWeek.TUESDAY));
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;
    @Autowired
    private Promises promises;

    @BeforeEach
    void disksAreRead() throws Exception {
        for (int i = 0; i < 600 && json.readTree(http.perform(get("/api/v1/computers")).andReturn().getResponse().getContentAsString())
            .get("reading").asBoolean(); i++) {
            Thread.sleep(100);
        }
    }

    private JsonNode page(ResultActions result) throws Exception {
        return json.readTree(result.andExpect(status().isOk()).andReturn().getResponse().getContentAsString(StandardCharsets.UTF_8));
    }

    private ResultActions send(MockHttpServletRequestBuilder request, Object body) throws Exception {
        return http.perform(request.with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content(json.writeValueAsString(body)));
    }

    private JsonNode tuesday() throws Exception {
        return page(http.perform(get("/api/v1/night?date=" + TUESDAY)));
    }

    private static JsonNode named(JsonNode list, String plan) {
        return all(list).filter(each -> each.get("plan").asText().equals(plan)).findFirst()
            .orElseThrow(() -> new AssertionError(plan + " is not in " + list));
    }

    private static Stream<JsonNode> all(JsonNode list) {
        return StreamSupport.stream(list.spliterator(), false);
    }

    private ResultActions choose(JsonNode row, String start, String drive, boolean leftOut) throws Exception {
        Map<String, Object> choice = new HashMap<>();
        choice.put("start", start);
        choice.put("driveId", drive);
        choice.put("leftOut", leftOut);
        choice.put("askedFor", false);
        return send(put("/api/v1/night/" + TUESDAY + "/plans/" + row.get("planId").asText()), choice);
    }

    @Test
    void aNightIsPlannedFromWhatIsDueAndEveryFigureHasItsWorking() throws Exception {
        JsonNode night = tuesday();
        assertTrue(night.get("rows").size() >= 4, night.get("sentence").asText());
        JsonNode tripod = named(night.get("rows"), "TRIPOD, field");
        assertTrue(tripod.get("working").toString().contains("normally distributed"));
        Instant closes = Instant.parse(night.get("closes").asText());
        all(night.get("rows")).filter(row -> !row.get("bootAt").isNull())
            .forEach(row -> assertTrue(Instant.parse(row.get("bootAt").asText()).isBefore(closes), row.toString()));
        JsonNode misfit = named(night.get("misfits"), "CONTOUR, mapping");
        assertTrue(misfit.get("why").asText().startsWith("CONTOUR, disk 2, mapping needs "), misfit.toString());
        assertTrue(misfit.get("help").get("sentence").asText().startsWith("It would fit on "), misfit.toString());
        assertTrue(night.get("sentence").asText().contains("CONTOUR, disk 2, mapping"), night.get("sentence").asText());
        assertTrue(all(night.get("notRun"))
            .anyMatch(idle -> idle.get("plan").asText().equals("PLUMB, front desk") && !idle.get("leftOut").asBoolean()));
        assertEquals(night, tuesday(), "the same question gets the same answer");
    }

    /** Looking at a night spoke for its room, so that what a capture by hand could have depended on who had looked at which page. */
    @Test
    void lookingAtANightChangesNothing() throws Exception {
        boolean untouched = false;
        for (int i = 0; i < 3 && !untouched; i++) { // the clockwork that speaks for tonight may come in between, once a minute
            promises.planTonight(List.of(new Promises.Tonight("nowhere", "nothing", 7)));
            http.perform(get("/api/v1/night")).andExpect(status().isOk());
            http.perform(get("/api/v1/today")).andExpect(status().isOk());
            untouched = promises.promisedBytes("nowhere", "") == 7;
        }
        assertTrue(untouched);
        promises.planTonight(List.of());
    }

    @Test
    void aPinHoldsALeftOutPlanMakesRoomAndBothAreUndone() throws Exception {
        JsonNode ledger = named(tuesday().get("rows"), "LEDGER, nightly");
        Instant two = TUESDAY.plusDays(1).atTime(2, 0).atZone(ZoneId.of(tuesday().get("zone").asText())).toInstant();
        JsonNode pinned = named(page(choose(ledger, "02:00", null, false)).get("rows"), "LEDGER, nightly");
        assertEquals(two.toString(), pinned.get("start").asText());
        assertTrue(pinned.get("pinned").asBoolean());
        assertEquals("It is pinned to that time.", pinned.get("because").asText());
        choose(ledger, "noon", null, false).andExpect(status().isBadRequest())
            .andExpect(jsonPath("$.detail", is("\"noon\" is no time of day. Write it like 18:30.")));
        JsonNode without = page(choose(ledger, null, null, true));
        assertTrue(all(without.get("rows")).noneMatch(row -> row.get("plan").asText().equals("LEDGER, nightly")));
        assertTrue(named(without.get("notRun"), "LEDGER, nightly").get("leftOut").asBoolean());
        assertEquals(ledger, named(page(choose(ledger, null, null, false)).get("rows"), "LEDGER, nightly"));
        http.perform(get("/api/v1/journal"))
            .andExpect(jsonPath("$.lines[*].sentence", hasItem("LEDGER, nightly is left out on the night of " + TUESDAY + ".")));
    }

    @Test
    void theHelpOfferedDoesHelp() throws Exception {
        JsonNode misfit = named(tuesday().get("misfits"), "CONTOUR, mapping");
        assertEquals("other-drive", misfit.get("help").get("kind").asText());
        JsonNode moved = named(page(choose(misfit, null, misfit.get("help").get("target").asText(), false)).get("rows"),
            "CONTOUR, mapping");
        assertEquals(misfit.get("help").get("target"), moved.get("driveId"));
        choose(misfit, null, null, false).andExpect(status().isOk());
    }

    @Test
    void whatIsToBeDoneIsTickedOnceWithWhoDidIt() throws Exception {
        JsonNode boot = all(tuesday().get("todos")).filter(todo -> todo.get("item").asText().equals("Boot TRIPOD from rescue media (F12)"))
            .findFirst().orElseThrow();
        Map<String, Object> tick = Map.of("planId", boot.get("planId").asText(), "item", boot.get("item").asText(), "done", true);
        for (int i = 0; i < 2; i++) {
            send(put("/api/v1/night/" + TUESDAY + "/ticks"), tick).andExpect(
                jsonPath("$.todos[?(@.item=='Boot TRIPOD from rescue media (F12)')].done", hasItem(containsString("technician, "))));
        }
        http.perform(get("/api/v1/journal")).andExpect(jsonPath("$.lines[?(@.action=='tick')].sentence",
            is(List.of("Boot TRIPOD from rescue media (F12): done, for the night of " + TUESDAY + "."))));
        send(put("/api/v1/night/" + TUESDAY + "/ticks"),
            Map.of("planId", boot.get("planId").asText(), "item", boot.get("item").asText(), "done", false))
            .andExpect(jsonPath("$.todos[?(@.item=='Boot TRIPOD from rescue media (F12)')].done", is(List.of(""))));
    }

    @Test
    void aClosedDayHasNobodyToBootAndMovesWhatIsDue() throws Exception {
        JsonNode days = page(http.perform(get("/api/v1/office/days")));
        Map<String, Object> form = json.convertValue(days.get("form"), Map.class);
        form.put("closedDays", List.of(Map.of("day", TUESDAY.toString(), "note", "stocktaking")));
        JsonNode saved = page(send(put("/api/v1/office/days").header("If-Match", "\"" + days.get("version") + "\""), form));
        JsonNode night = tuesday();
        JsonNode next = page(http.perform(get("/api/v1/night?date=" + TUESDAY.plusDays(1))));
        form.put("closedDays", List.of());
        page(send(put("/api/v1/office/days").header("If-Match", "\"" + saved.get("version") + "\""), form));
        send(put("/api/v1/office/days").header("If-Match", "\"" + saved.get("version") + "\""), form)
            .andExpect(status().isPreconditionFailed());
        assertTrue(all(night.get("rows")).allMatch(row -> row.get("plan").asText().startsWith("DATUM")), night.get("rows").toString());
        assertTrue(Stream.concat(all(next.get("rows")), all(next.get("misfits")))
            .anyMatch(row -> row.get("plan").asText().equals("MERIDIAN, drafting")), next.toString());
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "opens | 19:00 | closes | The office must close after it opens. Correct the hours.",
        "opens | eight | opens | \"eight\" is no time of day. Write it like 18:30.",
        "zone | Mars/Olympus | zone | \"Mars/Olympus\" is no time zone. Write it like Europe/Berlin."})
    void hoursThatCannotBeAreRefused(String field, String value, String complained, String sentence) throws Exception {
        JsonNode days = page(http.perform(get("/api/v1/office/days")));
        Map<String, Object> form = json.convertValue(days.get("form"), Map.class);
        form.put(field, value);
        send(put("/api/v1/office/days").header("If-Match", "\"" + days.get("version") + "\""), form).andExpect(status().isBadRequest())
            .andExpect(jsonPath("$.field", is(complained)))
            .andExpect(jsonPath("$.detail", is(sentence)));
    }

    @Test
    void nightsThatAreOverAreNotPlannedAndViewersOnlyLook() throws Exception {
        http.perform(get("/api/v1/night?date=" + LocalDate.now().minusDays(3))).andExpect(status().isBadRequest())
            .andExpect(jsonPath("$.detail", containsString("Only nights from tonight on")));
        JsonNode tonight = page(
            http.perform(get("/api/v1/night").with(user("manager").roles("VIEWER"))).andExpect(jsonPath("$.tonight", is(true))));
        assertTrue(Stream.concat(all(tonight.get("rows")), all(tonight.get("misfits"))).anyMatch(
            each -> each.get("plan").asText().equals("TRIPOD, field") && each.get("overdueDays").asLong() > 27), tonight.toString());
        JsonNode row = tuesday().get("rows").get(0);
        http.perform(put("/api/v1/night/" + TUESDAY + "/plans/" + row.get("planId").asText()).with(csrf().asHeader())
            .with(user("manager").roles("VIEWER")).contentType(MediaType.APPLICATION_JSON)
            .content("{\"start\": null, \"driveId\": null, \"leftOut\": true, \"askedFor\": false}")).andExpect(status().isForbidden());
    }
}
