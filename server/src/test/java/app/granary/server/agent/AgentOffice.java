package app.granary.server.agent;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.agent.AgentCommand;
import app.granary.server.account.Accounts;
import app.granary.server.home.GranarySettings;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.autoconfigure.web.servlet.AutoConfigureMockMvc;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

/** An office without disks of its own, and computers that join over TLS. */
@SpringBootTest(webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT, properties = {"granary.demo=false",
    "granary.device-types=none", "granary.promised-after=86400000", "granary.reconciled-after=P1D", "granary.listen=127.0.0.1:0",
    "granary.screens-too=true", "granary.screens-port=0"})
@AutoConfigureMockMvc
@WithMockUser(username = "technician", roles = "TECHNICIAN")
abstract class AgentOffice {
    @Autowired
    MockMvc http;
    @Autowired
    ObjectMapper json;
    @Autowired
    AgentPort port;
    @Autowired
    GranarySettings settings;
    private final List<CompletableFuture<Integer>> agents = new ArrayList<>();

    /** Called once for each office that is started. */
    @DynamicPropertySource
    static void home(DynamicPropertyRegistry registry) {
        Path home = newHome();
        registry.add("granary.home", home::toString);
    }

    /** The office's own folder. */
    Path home() {
        return settings.home();
    }

    private static Path newHome() {
        try {
            Path home = Files.createTempDirectory(Path.of("target"), "agents").toAbsolutePath();
            Runtime.getRuntime()
                .addShutdownHook(new Thread(() -> org.springframework.util.FileSystemUtils.deleteRecursively(home.toFile())));
            return home;
        } catch (IOException failed) {
            throw new java.io.UncheckedIOException(failed);
        }
    }

    JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    JsonNode send(MockHttpServletRequestBuilder request, JsonNode body) throws Exception {
        return json.readTree(http.perform(request.with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content(body.toString()))
            .andExpect(result -> assertTrue(result.getResponse().getStatus() < 300, result.getResponse().getContentAsString())).andReturn()
            .getResponse().getContentAsString());
    }

    JsonNode until(String path, Predicate<JsonNode> done) throws Exception {
        for (int i = 0; i < 600; i++) {
            JsonNode now = read(path);
            if (done.test(now)) {
                return now;
            }
            Thread.sleep(100);
        }
        throw new AssertionError("still " + read(path));
    }

    static JsonNode named(JsonNode lines, String name) {
        return StreamSupport.stream(lines.spliterator(), false).filter(each -> each.path("name").asText().equals(name)).findFirst()
            .orElse(com.fasterxml.jackson.databind.node.MissingNode.getInstance());
    }

    void join(String name, String... more) throws Exception {
        join(name, port.port(), more);
    }

    void join(String name, int by, String... more) throws Exception {
        List<String> line = joining(name, "127.0.0.1:" + by, more);
        agents.add(CompletableFuture.supplyAsync(() -> AgentCommand.run(line.toArray(String[]::new))));
    }

    /** What is typed on a computer that joins, behind the program's name. */
    List<String> joining(String name, String address, String... more) throws Exception {
        String code = json.readTree(http.perform(post("/api/v1/agents/codes").with(csrf().asHeader())).andReturn().getResponse()
            .getContentAsString()).get("code").asText();
        List<String> line = new ArrayList<>(List.of("join", "https://" + address, "--code", code, "--name", name, "--only-these"));
        line.addAll(List.of(more));
        return line;
    }

    @BeforeEach
    void someoneMayOrder(@Autowired Accounts accounts) throws IOException {
        if (accounts.firstWord().isPresent()) {
            accounts.createFirst("technician", "a few plain words", accounts.firstWord().get());
        }
    }

    @AfterEach
    void sendAway() throws Exception {
        for (JsonNode each : read("/api/v1/agents")) {
            http.perform(org.springframework.test.web.servlet.request.MockMvcRequestBuilders.delete("/api/v1/agents/"
                + each.get("id").asText()).with(csrf().asHeader()));
        }
        for (CompletableFuture<Integer> each : agents) {
            each.get(30, TimeUnit.SECONDS);
        }
    }

    String diskOf(String computer) throws Exception {
        JsonNode line = named(until("/api/v1/computers", all -> named(all.get("computers"), computer).path("disks").size() > 0)
            .get("computers"), computer);
        return line.get("disks").get(0).get("id").asText();
    }

    JsonNode capture(String disk, String destination, String name) throws Exception {
        JsonNode ended = ended(order(disk, destination, name));
        assertEquals("done", ended.get("state").asText(), ended.toString());
        return ended;
    }

    JsonNode ended(JsonNode run) throws Exception {
        return until("/api/v1/runs/" + run.get("id").asText(), now -> !now.get("endedAt").isNull());
    }

    JsonNode order(String disk, String destination, String name) throws Exception {
        ObjectNode order = json.createObjectNode().put("diskId", disk).put("destinationId", destination).put("name", name)
            .put("codec", "zstd").put("allBlocks", false).put("keepSwap", false);
        order.putArray("without");
        return send(post("/api/v1/runs"), order);
    }

    String restore(String imageId, String onto) throws Exception {
        JsonNode target = named(read("/api/v1/targets"), onto);
        String serial = target.get("serial").asText();
        ObjectNode order = json.createObjectNode().put("imageId", imageId).put("targetId", target.get("id").asText())
            .put("computer", "").put("strategy", "keep").put("confirmation", serial.substring(serial.length() - 4));
        List.of("stay", "othersStay", "zeroUnused", "acceptDamage", "skipCheck", "shrink").forEach(no -> order.put(no, false));
        return send(post("/api/v1/restore"), order).get("id").asText();
    }

    JsonNode restored(String id) throws Exception {
        JsonNode all = until("/api/v1/restore", lines -> StreamSupport.stream(lines.spliterator(), false).anyMatch(
            each -> each.get("id").asText().equals(id) && List.of("done", "failed").contains(each.get("state").asText())));
        return StreamSupport.stream(all.spliterator(), false).filter(each -> each.get("id").asText().equals(id)).findFirst().orElseThrow();
    }
}
