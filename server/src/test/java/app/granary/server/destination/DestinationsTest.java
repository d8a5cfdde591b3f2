package app.granary.server.destination;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.endsWith;
import static org.hamcrest.Matchers.hasItem;
import static org.hamcrest.Matchers.is;
import static org.hamcrest.Matchers.startsWith;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.server.ServerTestBase;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.List;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.ResultActions;

@WithMockUser(username = "technician", roles = "TECHNICIAN")
class DestinationsTest extends ServerTestBase {
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;
    @Autowired
    private JdbcTemplate jdbc;
    @Autowired
    private Destinations destinations;

    private JsonNode one(String name) throws Exception {
        JsonNode all = json
            .readTree(http.perform(get("/api/v1/destinations")).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
        return StreamSupport.stream(all.spliterator(), false).filter(d -> d.get("name").asText().equals(name)).findFirst().orElseThrow();
    }

    private ResultActions describe(JsonNode destination, String kind, String place) throws Exception {
        return http.perform(put("/api/v1/destinations/" + destination.get("id").asText()).with(csrf().asHeader())
            .header("If-Match", "\"" + destination.get("version").asLong() + "\"")
            .contentType(MediaType.APPLICATION_JSON).content("{\"placeKind\": \"" + kind + "\", \"place\": \"" + place
                + "\", \"rotation\": \"weekly pair\", \"ejectNote\": \"\", \"healthNote\": \"\", \"sharedLink\": \"\", "
                + "\"leavesBuilding\": false, \"onlyFor\": []}"));
    }

    @Test
    void everyDestinationHasItsHistoryAndADayItWillBeFull() throws Exception {
        JsonNode peg = one("PEG-1");
        assertEquals(1_000_204_886_016L, peg.get("capacityBytes").asLong());
        assertTrue(peg.get("readings").size() >= 14, "three months of weeks, and today");
        assertTrue(peg.get("full").get("sentence").asText().matches("in \\d+ (day|year)s?"), peg.get("full").toString());
        assertTrue(peg.get("full").get("working").toString().contains("least squares"));
        assertFalse(one("OUTPOST").get("attached").asBoolean());
        assertEquals(4_294_967_295L, one("PEG-3").get("fileLimitBytes").asLong());
    }

    /** Room is measured while a form is open; only what people said can be changed meanwhile. */
    @Test
    void aMeasurementIsNobodysChange() throws Exception {
        JsonNode before = one("CAIRN");
        jdbc.update("update destination set free_bytes = free_bytes / 2 where id = ?", before.get("id").asText());
        destinations.look();
        assertEquals(before.get("readings").size() + 1, one("CAIRN").get("readings").size());
        describe(before, "here", "cupboard by the stairs").andExpect(status().isOk());
        assertEquals(before.get("freeBytes").asLong(), one("CAIRN").get("freeBytes").asLong());
    }

    @Test
    void aMoveIsKeptWithWhoMadeItAndNobodyOverwritesAnothers() throws Exception {
        JsonNode before = one("PEG-2");
        describe(before, "the moon", "").andExpect(status().isBadRequest()).andExpect(jsonPath("$.field", is("placeKind")));
        describe(before, "safe", "shelf 2").andExpect(status().isOk()).andExpect(jsonPath("$.placeText", is("in the fire safe, shelf 2")))
            .andExpect(jsonPath("$.moves[0].account", is("technician")));
        describe(before, "off-site", "").andExpect(status().isPreconditionFailed())
            .andExpect(jsonPath("$.type", endsWith("changed-meanwhile")))
            .andExpect(jsonPath("$.detail", startsWith("Someone changed PEG-2")));
        describe(one("PEG-2"), "off-site", "").andExpect(status().isOk()).andExpect(jsonPath("$.placeText", is("off site")));
        assertEquals(List.of("off site", "in the fire safe, shelf 2"), one("PEG-2").get("moves").findValuesAsText("place"));
        http.perform(get("/api/v1/journal")).andExpect(jsonPath("$.lines[*].sentence", hasItem("PEG-2 lies off site now.")));
        http.perform(get("/api/v1/estimates?diskId=gnomon"))
            .andExpect(jsonPath("$.destinations[?(@.name=='PEG-2')].place").value(hasItem(containsString("off site"))));
    }
}
