package app.granary.server.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;
import app.granary.server.ServerTestBase;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.stream.IntStream;
import java.util.stream.StreamSupport;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.ResultActions;

/** Captures, restores and faults over the wire. */
abstract class ComeBackFixture extends ServerTestBase {
    @Autowired
    MockMvc http;
    @Autowired
    ObjectMapper json;

    ResultActions send(String path, Object body) throws Exception {
        return http
            .perform(post(path).with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content(json.writeValueAsString(body)));
    }

    JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    JsonNode answer(ResultActions sent) throws Exception {
        return json.readTree(sent.andExpect(status().is2xxSuccessful()).andReturn().getResponse().getContentAsString());
    }

    JsonNode until(String path, java.util.function.Predicate<JsonNode> done) throws Exception {
        for (int i = 0; i < 2400; i++) {
            JsonNode now = read(path);
            if (done.test(now)) {
                return now;
            }
            Thread.sleep(100);
        }
        throw new AssertionError("still " + read(path));
    }

    String image(String disk, String name, int... without) throws Exception {
        ObjectNode capture = json.createObjectNode().put("diskId", disk).put("destinationId", "cairn").put("name", name)
            .put("codec", "zstd").put("allBlocks", false).put("keepSwap", false);
        ArrayNode left = capture.putArray("without");
        IntStream.of(without).forEach(left::add);
        String run = answer(send("/api/v1/runs", capture)).get("id").asText();
        JsonNode ended = until("/api/v1/runs/" + run, now -> !now.get("endedAt").isNull());
        assertEquals("done", ended.get("state").asText(), ended.toString());
        return ended.get("imageId").asText();
    }

    ObjectNode order(String imageId, String target, String strategy, String typed) {
        ObjectNode out = json.createObjectNode().put("imageId", imageId).put("targetId", target).put("computer", "")
            .put("strategy", strategy).put("confirmation", typed);
        for (String no : List.of("stay", "othersStay", "zeroUnused", "acceptDamage", "skipCheck", "shrink")) {
            out.put(no, false);
        }
        return out;
    }

    JsonNode restoration(String id) throws Exception {
        JsonNode all = until("/api/v1/restore", lines -> StreamSupport.stream(lines.spliterator(), false)
            .anyMatch(each -> each.get("id").asText().equals(id) && List.of("done", "failed").contains(each.get("state").asText())));
        return StreamSupport.stream(all.spliterator(), false).filter(each -> each.get("id").asText().equals(id)).findFirst().orElseThrow();
    }

    void fault(String id, boolean on) throws Exception {
        http.perform(
            put("/api/v1/switches/" + id).with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content("{\"on\":" + on + "}"))
            .andExpect(status().is2xxSuccessful());
    }

    void renamed(String before, String after) throws Exception {
        described(before, "name", after);
    }

    /** One field of what a person says of a computer. */
    void described(String before, String field, String value) throws Exception {
        JsonNode line = StreamSupport.stream(read("/api/v1/computers").get("computers").spliterator(), false)
            .filter(each -> each.get("name").asText().equals(before)).findFirst().orElseThrow();
        JsonNode detail = read("/api/v1/computers/" + line.get("id").asText());
        ObjectNode form = ((ObjectNode) detail.get("form")).put(field, value);
        http.perform(put("/api/v1/computers/" + line.get("id").asText()).with(csrf().asHeader())
            .header("If-Match", "\"" + detail.get("version").asLong() + "\"")
            .contentType(MediaType.APPLICATION_JSON).content(form.toString())).andExpect(status().isOk());
    }
}
