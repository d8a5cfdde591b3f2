package app.granary.server.computer;

import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.header;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;
import app.granary.engine.host.Devices;
import app.granary.engine.host.Host;
import app.granary.server.ServerTestBase;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.http.MediaType;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.ResultActions;

/** The made-up office's computers over the wire, and reports of others. */
abstract class InventoryFixture extends ServerTestBase {
    @Autowired
    MockMvc http;
    @Autowired
    ObjectMapper json;
    @Autowired
    AttachedDisks attached;
    @Autowired
    Devices devices;
    @Autowired
    Inventory inventory;
    @Autowired
    DiskRepository disks;
    @Autowired
    @Qualifier("machine")
    Host machine;
    @Autowired
    app.granary.standins.Switchboard switchboard;

    JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    @BeforeEach
    void allDisksAreRead() throws Exception {
        Instant latest = Instant.now().plus(Duration.ofMinutes(2));
        attached.readAgain();
        while (attached.reading()) {
            assertTrue(Instant.now().isBefore(latest), "the disks were not read in time");
            Thread.sleep(50);
        }
    }

    JsonNode computer(String name) throws Exception {
        return StreamSupport.stream(read("/api/v1/computers").get("computers").spliterator(), false)
            .filter(c -> c.get("name").asText().equals(name)).findFirst().orElseThrow();
    }

    JsonNode detail(String name) throws Exception {
        return read("/api/v1/computers/" + computer(name).get("id").asText());
    }

    ResultActions save(JsonNode detail, String field, Object value) throws Exception {
        var form = (com.fasterxml.jackson.databind.node.ObjectNode) detail.get("form").deepCopy();
        form.putPOJO(field, value);
        return http.perform(put("/api/v1/computers/" + detail.get("line").get("id").asText()).with(csrf().asHeader())
            .header("If-Match", "\"" + detail.get("version").asLong() + "\"")
            .contentType(MediaType.APPLICATION_JSON).content(json.writeValueAsString(form)));
    }

    ResultActions addDisk(String computer, String serial, long size, String used) throws Exception {
        return http.perform(post("/api/v1/computers/" + computer(computer).get("id").asText() + "/disks").with(csrf().asHeader())
            .contentType(MediaType.APPLICATION_JSON)
            .content("{\"name\": \"\", \"model\": \"Halden S9\", \"serial\": \"" + serial + "\", \"sizeBytes\": " + size
                + ", \"usedBytes\": " + used + "}"));
    }

    static String report(String name, String serial, long used) {
        return "{\"format\": \"granary-inventory\", \"version\": 1, \"computers\": [{\"name\": \"" + name
            + "\", \"maker\": \"Acer\", \"disks\": [\n{\"model\": \"M\", \"serial\": \"" + serial
            + "\", \"sizeBytes\": 1000000000, \"partitions\": [{\"number\": 1, \"sizeBytes\": 900000000, \"fileSystem\": \"ntfs\", "
            + "\"usedBytes\": "
            + used + "}]}]}]}";
    }

    ResultActions imports(String what, String text, String query) throws Exception {
        return http
            .perform(post("/api/v1/imports/" + what + "?" + query).with(csrf().asHeader()).contentType(MediaType.TEXT_PLAIN).content(text));
    }

    JsonNode review(String text) throws Exception {
        return json.readTree(imports("review", text, "").andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    ResultActions told(String attachment, String diskId) throws Exception {
        return http.perform(post("/api/v1/computers/told").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content("{\"attachment\": \"" + attachment + "\", \"diskId\": \"" + diskId + "\"}"));
    }

    JsonNode drive(String id) throws Exception {
        return StreamSupport.stream(read("/api/v1/destinations").spliterator(), false).filter(d -> d.get("id").asText().equals(id))
            .findFirst().orElseThrow();
    }

    void keptFor(String... computers) throws Exception {
        JsonNode drive = drive("peg-1");
        var form = (com.fasterxml.jackson.databind.node.ObjectNode) drive.get("form").deepCopy();
        var only = form.putArray("onlyFor");
        List.of(computers).forEach(only::add);
        http.perform(
            put("/api/v1/destinations/peg-1").with(csrf().asHeader()).header("If-Match", "\"" + drive.get("version").asLong() + "\"")
                .contentType(MediaType.APPLICATION_JSON).content(form.toString()))
            .andExpect(status().isOk());
    }
}
