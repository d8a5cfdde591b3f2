package app.granary.server.rescue;

import static org.hamcrest.Matchers.is;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.server.ServerTestBase;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.ResultActions;

@WithMockUser(username = "technician", roles = "TECHNICIAN")
class RescueRegisterTest extends ServerTestBase {
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;

    private ResultActions register(String name, String since) throws Exception {
        Map<String, Object> medium = new HashMap<>(Map.of("name", name, "kind", "disc", "serial", "", "contents", "Larch rescue 9",
            "starts", List.of("BIOS"), "place", "", "spareSet", false));
        medium.put("since", since);
        return http.perform(post("/api/v1/rescue-media").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content(json.writeValueAsString(medium)));
    }

    /** What was bought long before Granary came grows old from the day it came into use. */
    @Test
    void anOldMediumIsToldByTheDayItCameIntoUse() throws Exception {
        register("old disc", "2015-05-02").andExpect(status().isOk());
        register("new disc", null).andExpect(status().isOk());
        String wear = "$.media[?(@.name == '%s')].wear[*]";
        http.perform(get("/api/v1/rescue-media")).andExpect(jsonPath(wear, "new disc").isEmpty())
            .andExpect(jsonPath(wear, "old disc").isNotEmpty());
        register("disc to come", "2099-01-01").andExpect(status().isBadRequest()).andExpect(jsonPath("$.field", is("since")));
        register("Old Disc ", "2015-05-02").andExpect(status().isConflict()).andExpect(jsonPath("$.field", is("name")));
        register("a disc", "soon").andExpect(status().isBadRequest());
    }
}
