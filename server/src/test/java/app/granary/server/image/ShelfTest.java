package app.granary.server.image;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.core.proof.ProofLevel;
import app.granary.server.ServerTestBase;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.transaction.support.TransactionTemplate;

/** The shelf in memory says what the database says, as soon as it is committed and not before. */
@WithMockUser(username = "technician", roles = "TECHNICIAN")
class ShelfTest extends ServerTestBase {
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;
    @Autowired
    private Images images;
    @Autowired
    private ImageRecords imageRecords;
    @Autowired
    private TransactionTemplate transactions;

    private JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    private String paper(String name, int bytes) throws Exception {
        http.perform(post("/api/v1/elsewhere/paper").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content(json.writeValueAsString(Map.of("diskId", "ledger", "name", name, "where", "shelf of " + name,
                "madeAt", "2020-01-0" + (1 + bytes % 9) + "T12:00:00Z", "storedBytes", bytes, "note", ""))))
            .andExpect(status().isCreated());
        return read("/api/v1/images/page?text=" + name).get("lines").get(0).get("id").asText();
    }

    private List<String> names(JsonNode page) {
        List<String> out = new ArrayList<>();
        page.get("lines").forEach(line -> out.add(line.get("name").asText()));
        return out;
    }

    @Test
    void pagesAreCutSortedAndSearched() throws Exception {
        for (int i = 1; i <= 5; i++) {
            paper("shelved-" + i, 100 * i);
        }
        JsonNode first = read("/api/v1/images/page?text=shelved&sort=storedBytes&descending=true&size=2");
        assertEquals(5, first.get("total").asInt());
        assertEquals(1500, first.get("storedBytes").asLong());
        assertEquals(List.of("shelved-5", "shelved-4"), names(first));
        assertEquals(List.of("shelved-1"), names(read("/api/v1/images/page?text=shelved&sort=storedBytes&descending=true&size=2&page=2")));
        assertEquals(List.of(), names(read("/api/v1/images/page?text=shelved&page=99")));
        assertEquals(List.of("shelved-3"), names(read("/api/v1/images/page?text=SHELF of shelved-3 ledger")));
        for (String sort : new String[] {"computer", "usedBytes", "destination", "proof", "checkedAt", "madeAt"}) {
            assertEquals(5, names(read("/api/v1/images/page?text=shelved&descending=false&sort=" + sort)).size());
        }
        http.perform(get("/api/v1/images/page?size=100000")).andExpect(status().isBadRequest());
    }

    @Test
    void aCheckCountsOnceItIsCommittedAndNeverWhenItIsRolledBack() throws Exception {
        UUID id = UUID.fromString(paper("checked-shelf", 7));
        CheckOutcome bad = new CheckOutcome(ProofLevel.SOUND, List.of(new Problem("x", 0, 1, "", "it is damaged")), 1);
        transactions.executeWithoutResult(status -> {
            imageRecords.recordCheck(id, bad, 1, "ada");
            status.setRollbackOnly();
        });
        assertTrue(images.standings().stream().noneMatch(each -> each.id().equals(id) && each.standing().damaged()));
        imageRecords.recordCheck(id, bad, 1, "ada");
        assertTrue(images.standings().stream().anyMatch(each -> each.id().equals(id) && each.standing().damaged()));
        imageRecords.release(id);
        assertTrue(images.standings().stream().noneMatch(each -> each.id().equals(id)));
        imageRecords.gone(id);
        assertEquals(0, read("/api/v1/images/page?text=checked-shelf").get("total").asInt());
    }
}
