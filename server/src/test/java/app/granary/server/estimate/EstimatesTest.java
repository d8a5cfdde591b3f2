package app.granary.server.estimate;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.hasItem;
import static org.hamcrest.Matchers.hasSize;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.server.ServerTestBase;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.charset.StandardCharsets;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;

@WithMockUser(username = "technician", roles = "TECHNICIAN")
class EstimatesTest extends ServerTestBase {
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;

    private JsonNode ask(String path) throws Exception {
        return json.readTree(
            http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString(StandardCharsets.UTF_8));
    }

    private static JsonNode on(JsonNode prospect, String name) {
        return StreamSupport.stream(prospect.get("destinations").spliterator(), false).filter(d -> d.get("name").asText().equals(name))
            .findFirst().orElseThrow();
    }

    @Test
    void aPartitionLeftOutIsNotReadAndWeighsNothing() throws Exception {
        JsonNode all = ask("/api/v1/estimates?diskId=meridian");
        JsonNode without = ask("/api/v1/estimates?diskId=meridian&without=4");
        assertTrue(without.get("usedBytes").asLong() < all.get("usedBytes").asLong());
        assertTrue(without.get("likelyBytes").asLong() < all.get("likelyBytes").asLong());
        assertTrue(without.get("working").toString().contains("partition 3") && !without.get("working").toString().contains("partition 4"),
            without.get("working").toString());
    }

    @Test
    void byTheClockTheSameWorkTakesLonger() throws Exception {
        double run = on(ask("/api/v1/estimates?diskId=gnomon&codec=none&level=0"), "CAIRN").get("time").get("lowSeconds").asDouble();
        double clock = on(ask("/api/v1/estimates?diskId=gnomon&codec=none&level=0&byClock=true"), "CAIRN").get("time").get("lowSeconds")
            .asDouble();
        assertTrue(clock > run * 100, clock + " against " + run);
    }

    @Test
    void aSampleKnowsHowFarItIsAndIsDoneWhenTheFiguresAreThere() throws Exception {
        ask("/api/v1/estimates?diskId=plumb&codec=gzip&level=1");
        http.perform(get("/api/v1/estimates/sampling?diskId=plumb")).andExpect(status().isOk()).andExpect(jsonPath("$", hasSize(0)));
        http.perform(post("/api/v1/estimates/sampling/enough?diskId=plumb").with(csrf().asHeader())).andExpect(status().isNoContent());
    }

    @Test
    void whereADriveLeavesTheBuildingTheOfficeMayWantEncryption() throws Exception {
        assertTrue(on(ask("/api/v1/estimates?diskId=gnomon"), "PEG-1").get("fit").asBoolean());
        JsonNode days = ask("/api/v1/office/days");
        ObjectNode form = days.get("form").deepCopy();
        form.put("encryptLeaving", true);
        http.perform(put("/api/v1/office/days").with(csrf().asHeader()).header("If-Match", "\"" + days.get("version") + "\"")
            .contentType(MediaType.APPLICATION_JSON).content(form.toString())).andExpect(status().isOk());
        try {
            JsonNode refused = on(ask("/api/v1/estimates?diskId=gnomon"), "PEG-1");
            assertFalse(refused.get("fit").asBoolean());
            assertEquals("PEG-1 leaves the building, and this office wants images encrypted there. Encrypt the image, or choose another.",
                refused.get("refusals").get(0).asText());
            assertTrue(on(ask("/api/v1/estimates?diskId=gnomon&encrypted=true"), "PEG-1").get("fit").asBoolean());
            assertTrue(on(ask("/api/v1/estimates?diskId=gnomon"), "CAIRN").get("fit").asBoolean());
            http.perform(post("/api/v1/runs").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
                .content("{\"diskId\":\"gnomon\",\"destinationId\":\"peg-1\",\"name\":\"plain\",\"codec\":\"zstd\",\"level\":3,"
                    + "\"splitBytes\":null,\"allBlocks\":false,\"keepSwap\":false,\"without\":[]}"))
                .andExpect(status().isConflict()).andExpect(jsonPath("$.detail", containsString("wants images encrypted there")));
        } finally {
            form.put("encryptLeaving", false);
            long version = ask("/api/v1/office/days").get("version").asLong();
            http.perform(put("/api/v1/office/days").with(csrf().asHeader()).header("If-Match", "\"" + version + "\"")
                .contentType(MediaType.APPLICATION_JSON).content(form.toString())).andExpect(status().isOk());
        }
    }

    @Test
    void aDriveKeptForSomeComputersRefusesOthers() throws Exception {
        JsonNode all = ask("/api/v1/destinations");
        JsonNode shelf = StreamSupport.stream(all.spliterator(), false).filter(d -> d.get("name").asText().equals("SHELF")).findFirst()
            .orElseThrow();
        ObjectNode form = shelf.get("form").deepCopy();
        form.putArray("onlyFor").add("DATUM").add(" LEDGER ").add("");
        http.perform(put("/api/v1/destinations/shelf").with(csrf().asHeader()).header("If-Match", "\"" + shelf.get("version") + "\"")
            .contentType(MediaType.APPLICATION_JSON).content(form.toString()))
            .andExpect(status().isOk()).andExpect(jsonPath("$.form.onlyFor", hasSize(2)))
            .andExpect(jsonPath("$.form.onlyFor", hasItem("LEDGER")));
        assertEquals("SHELF is kept for DATUM, LEDGER. Choose another, or change who may use it.",
            on(ask("/api/v1/estimates?diskId=gnomon"), "SHELF").get("refusals").get(0).asText());
        assertTrue(on(ask("/api/v1/estimates?diskId=ledger"), "SHELF").get("fit").asBoolean());
        form.putArray("onlyFor");
        http.perform(
            put("/api/v1/destinations/shelf").with(csrf().asHeader()).header("If-Match", "\"" + (shelf.get("version").asLong() + 1) + "\"")
                .contentType(MediaType.APPLICATION_JSON).content(form.toString()))
            .andExpect(status().isOk());
    }
}
