package app.granary.server;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;

/**
 * The browser's types are generated from web/openapi.json; it must be what this server offers. After a change of the wire:
 * {@code mvn -pl server -am test -Dtest=OpenApiTest -Dsurefire.failIfNoSpecifiedTests=false -Dgranary.openapi.write=true -Dexec.skip=true}
 */
class OpenApiTest extends ServerTestBase {
    private static final Path COMMITTED = Path.of("../web/openapi.json");

    @Autowired
    private MockMvc http;

    @Test
    @WithMockUser(username = "technician", roles = "TECHNICIAN")
    void theCommittedDescriptionIsCurrent() throws Exception {
        ObjectMapper json = new ObjectMapper().configure(SerializationFeature.ORDER_MAP_ENTRIES_BY_KEYS, true);
        String served = http.perform(get("/api/v1/openapi")).andReturn().getResponse()
            .getContentAsString(java.nio.charset.StandardCharsets.UTF_8);
        String current = json.writerWithDefaultPrettyPrinter().writeValueAsString(json.readValue(served, Object.class)) + "\n";
        if (Boolean.getBoolean("granary.openapi.write")) {
            Files.writeString(COMMITTED, current);
        }
        assertEquals(Files.readString(COMMITTED), current);
    }
}
