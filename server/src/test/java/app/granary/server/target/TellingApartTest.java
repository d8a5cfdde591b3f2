package app.granary.server.target;

import static org.hamcrest.Matchers.containsString;
import static org.junit.jupiter.api.Assertions.assertEquals;
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
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.ResultActions;

/** Two disks in a dock that gives both one serial: the first of the list was written, whichever was meant. */
@WithMockUser(username = "technician", roles = "TECHNICIAN")
class TellingApartTest extends ServerTestBase {
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;

    private void fault(String id, boolean on) throws Exception {
        http.perform(
            put("/api/v1/switches/" + id).with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content("{\"on\":" + on + "}"))
            .andExpect(status().is2xxSuccessful());
    }

    private JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    private JsonNode target(String id) throws Exception {
        for (JsonNode each : read("/api/v1/targets")) {
            if (each.get("id").asText().equals(id)) {
                return each;
            }
        }
        throw new AssertionError(id);
    }

    private ResultActions prepare(String id, String typed) throws Exception {
        return http.perform(post("/api/v1/targets/" + id + "/prepare").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content("{\"confirmation\": \"" + typed
                + "\", \"scheme\": \"gpt\", \"fileSystem\": \"ext4\", \"name\": \"PEG-9\", \"rescueBytes\": 0}"));
    }

    private void until(String state) throws Exception {
        for (int i = 0; i < 300 && !read("/api/v1/targets/replug").get("state").asText().equals(state); i++) {
            Thread.sleep(50);
        }
        assertEquals(state, read("/api/v1/targets/replug").get("state").asText());
    }

    @Test
    void ofTwoThatAnswerAlikeNoneIsWrittenUntilOneIsToldOrTakenOff() throws Exception {
        assertEquals("", target("spare-1").get("refusal").asText());
        fault("alike:spare-2", true);
        for (String id : new String[] {"spare-1", "spare-2"}) {
            assertTrue(target(id).get("refusal").asText().contains("it cannot be told which would be overwritten"), target(id).toString());
            assertTrue(target(id).get("untold").asBoolean());
            prepare(id, "8-SP").andExpect(status().isConflict()).andExpect(jsonPath("$.detail", containsString("answers just as")));
        }
        http.perform(post("/api/v1/targets/spare-2/replug").with(csrf().asHeader())).andExpect(status().isOk());
        until("watching");
        fault("unplug:spare-2", true);
        until("pulled");
        assertEquals("", target("spare-1").get("refusal").asText(), "alone it answers for itself");
        fault("unplug:spare-2", false);
        until("told");
        assertEquals("spare-2", read("/api/v1/targets/replug").get("targetId").asText());
        assertEquals("", target("spare-2").get("refusal").asText());
        assertTrue(target("spare-1").get("untold").asBoolean(), "the other one was not told");
        fault("unplug:spare-2", true);
        fault("unplug:spare-2", false);
        assertTrue(target("spare-2").get("untold").asBoolean(), "what was told holds for that attachment");
        fault("alike:spare-2", false);
        assertEquals("", target("spare-2").get("refusal").asText());
    }
}
