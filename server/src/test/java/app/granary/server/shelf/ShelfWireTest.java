package app.granary.server.shelf;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.core.proof.ProofLevel;
import app.granary.server.ServerTestBase;
import app.granary.server.image.ImageRecords;
import app.granary.server.image.Images;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

@WithMockUser(username = "technician", roles = "TECHNICIAN")
class ShelfWireTest extends ServerTestBase {
    private static final CheckOutcome SOUND = new CheckOutcome(ProofLevel.SOUND, List.of(), 1);
    private static final CheckOutcome BAD = new CheckOutcome(ProofLevel.SOUND, List.of(new Problem("x", 0, 1, "", "it is damaged")), 1);
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;
    @Autowired
    private Images images;
    @Autowired
    private ImageRecords imageRecords;
    @Autowired
    private JdbcClient database;

    private JsonNode read(String path) throws Exception {
        return json
            .readTree(http.perform(get("/api/v1/" + path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    private void send(MockHttpServletRequestBuilder request, Map<String, ?> body) throws Exception {
        http.perform(request.with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content(json.writeValueAsString(body)))
            .andExpect(status().is2xxSuccessful());
    }

    private UUID paper(String name, String day) throws Exception {
        send(post("/api/v1/elsewhere/paper"), Map.of("diskId", "plumb", "name", name, "where", "envelope of " + name, "madeAt",
            day + "T12:00:00Z", "storedBytes", 500, "note", ""));
        return UUID.fromString(read("images/page?text=" + name).get("lines").get(0).get("id").asText());
    }

    private static List<String> each(JsonNode list, String field) {
        List<String> out = new ArrayList<>();
        list.forEach(one -> out.add(one.get(field).asText()));
        return out;
    }

    @Test
    void anImageIsShownOnceWithItsCopies() throws Exception {
        UUID first = paper("joined-a", "2020-01-05");
        paper("joined-b", "2020-01-04");
        paper("joined-c", "2020-01-03");
        paper("joined-d", "2020-01-02");
        UUID copy = imageRecords.recordCopy(first, "cairn", "CAIRN", SOUND, "ada");
        JsonNode page = read("shelf?text=joined");
        assertEquals("{\"images\":4,\"disks\":1,\"copies\":5,\"storedBytes\":2500,\"damaged\":0,\"twins\":0}",
            page.get("figures").toString());
        JsonNode disk = page.get("disks").get(0);
        assertEquals("PLUMB 4", disk.get("computer").asText() + " " + disk.get("images").asText());
        assertEquals(List.of("joined-a", "joined-b", "joined-c"), each(disk.get("newest"), "name"),
            "the newest three, the others are asked for");
        assertEquals(List.of("CAIRN", "envelope of joined-a"), each(disk.get("newest").get(0).get("copies"), "destination"),
            "the one proven furthest first");
        assertEquals(List.of("joined-a", "joined-b", "joined-c", "joined-d"),
            each(read("shelf/disks/plumb?text=joined").get("newest"), "name"));
        assertEquals(List.of("joined-a"), each(read("shelf?text=joined&drive=cairn").get("disks").get(0).get("newest"), "name"));
        assertEquals(0, read("shelf?text=joined&show=damaged").get("disks").size());
        assertEquals(4, page.get("oneCopy").asInt() + page.get("damaged").asInt(), "what was never seen is no copy to restore from");
        http.perform(get("/api/v1/shelf?show=everything")).andExpect(status().isBadRequest());
        http.perform(get("/api/v1/shelf/disks/plumb?text=nothing-like-it")).andExpect(status().isNotFound());

        // what is said of the image is said of all its copies, what is found out of a copy of that alone
        send(put("/api/v1/images/" + copy + "/note"), Map.of("text", "before the upgrade"));
        assertEquals("before the upgrade", read("images/" + first).get("image").get("note").asText());
        send(post("/api/v1/images/" + copy + "/booted"), Map.of("lookedAt", "log-in"));
        assertEquals(0, read("images/" + first).get("image").get("proof").asInt());
        assertEquals("technician", read("shelf?text=joined-a").get("disks").get(0).get("newest").get(0).get("bootedBy").asText());
        send(post("/api/v1/retention/images/" + first + "/holds"), java.util.Collections.singletonMap("reason", "until the move"));
        assertEquals(1, read("retention/images/" + copy).get("holds").size());
        assertEquals("until the move", read("shelf?text=joined-a").get("disks").get(0).get("newest").get(0).get("held").asText());
    }

    @Test
    void aDamagedCopyLeadsToItsTwin() throws Exception {
        UUID first = paper("twinned", "2020-02-01");
        database.sql("update image set origin = 'MADE' where id = ?").param(first).update(); // as if it had been captured
        UUID sound = imageRecords.recordCopy(first, "cairn", "CAIRN", SOUND, "ada");
        imageRecords.recordCopy(first, "peg-1", "PEG-1", BAD, "ada");
        JsonNode page = read("shelf?text=twinned&show=damaged");
        assertEquals("1 1", page.get("figures").get("damaged").asText() + " " + page.get("figures").get("twins").asText());
        assertEquals(sound.toString(), page.get("disks").get(0).get("newest").get(0).get("repairFrom").asText());
        assertTrue(each(page.get("drives"), "id").contains("cairn"));
    }
}
