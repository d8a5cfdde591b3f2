package app.granary.server.agent;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.agent.AgentCommand;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.server.account.Accounts;
import app.granary.standins.Cable;
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
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.autoconfigure.web.servlet.AutoConfigureMockMvc;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

/** An office without disks of its own, and computers that joined over TLS: images are made, copied and restored by order. */
@Tag("large")
@SpringBootTest(webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT, properties = {"granary.demo=false",
    "granary.device-types=none", "granary.promised-after=86400000", "granary.reconciled-after=P1D", "granary.listen=127.0.0.1:0"})
@AutoConfigureMockMvc
@WithMockUser(username = "technician", roles = "TECHNICIAN")
class AgentWorkTest {
    private static final Path HOME = newHome();

    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;
    @Autowired
    private AgentPort port;
    private final List<CompletableFuture<Integer>> agents = new ArrayList<>();

    @DynamicPropertySource
    static void home(DynamicPropertyRegistry registry) {
        registry.add("granary.home", () -> HOME.toString());
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

    private JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    private JsonNode send(MockHttpServletRequestBuilder request, JsonNode body) throws Exception {
        return json.readTree(http.perform(request.with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content(body.toString()))
            .andExpect(result -> assertTrue(result.getResponse().getStatus() < 300, result.getResponse().getContentAsString())).andReturn()
            .getResponse().getContentAsString());
    }

    private JsonNode until(String path, Predicate<JsonNode> done) throws Exception {
        for (int i = 0; i < 600; i++) {
            JsonNode now = read(path);
            if (done.test(now)) {
                return now;
            }
            Thread.sleep(100);
        }
        throw new AssertionError("still " + read(path));
    }

    private static JsonNode named(JsonNode lines, String name) {
        return StreamSupport.stream(lines.spliterator(), false).filter(each -> each.path("name").asText().equals(name)).findFirst()
            .orElse(com.fasterxml.jackson.databind.node.MissingNode.getInstance());
    }

    private void join(String name, String... more) throws Exception {
        join(name, port.port(), more);
    }

    private void join(String name, int by, String... more) throws Exception {
        String code = json.readTree(http.perform(post("/api/v1/agents/codes").with(csrf().asHeader())).andReturn().getResponse()
            .getContentAsString()).get("code").asText();
        List<String> line = new ArrayList<>(List.of("join", "https://127.0.0.1:" + by, "--code", code, "--name", name,
            "--only-these"));
        line.addAll(List.of(more));
        agents.add(CompletableFuture.supplyAsync(() -> AgentCommand.run(line.toArray(String[]::new))));
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

    private String diskOf(String computer) throws Exception {
        JsonNode line = named(until("/api/v1/computers", all -> named(all.get("computers"), computer).path("disks").size() > 0)
            .get("computers"), computer);
        return line.get("disks").get(0).get("id").asText();
    }

    private JsonNode capture(String disk, String destination, String name) throws Exception {
        JsonNode ended = ended(order(disk, destination, name));
        assertEquals("done", ended.get("state").asText(), ended.toString());
        return ended;
    }

    private JsonNode ended(JsonNode run) throws Exception {
        return until("/api/v1/runs/" + run.get("id").asText(), now -> !now.get("endedAt").isNull());
    }

    private JsonNode order(String disk, String destination, String name) throws Exception {
        ObjectNode order = json.createObjectNode().put("diskId", disk).put("destinationId", destination).put("name", name)
            .put("codec", "zstd").put("allBlocks", false).put("keepSwap", false);
        order.putArray("without");
        return send(post("/api/v1/runs"), order);
    }

    @Test
    void imagesAreMadeOfItsDisksHereAndThereAndWrittenBack() throws Exception {
        Path folder = Files.createDirectories(HOME.resolve("tripod"));
        Path disk = Files.move(Medium.GPT_EXT4_AND_FAT.make(folder), folder.resolve("tripod-disk.img"));
        Path drive = Files.createDirectories(folder.resolve("TRIPOD-DRIVE"));
        Path empty = folder.resolve("empty.img");
        Tools.run(folder, "truncate -s 200M empty.img");
        long before = System.nanoTime();
        join("TRIPOD", "--disk", disk.toString(), "--disk", empty.toString(), "--drive", drive.toString());
        until("/api/v1/agents", all -> !all.isEmpty() && all.get(0).get("disks").asInt() > 0);
        assertTrue(System.nanoTime() - before < 30_000_000_000L);

        JsonNode there = named(until("/api/v1/destinations", all -> !named(all, "TRIPOD-DRIVE").isMissingNode()), "TRIPOD-DRIVE");
        assertEquals("in TRIPOD", there.get("placeText").asText());
        JsonNode computer = named(until("/api/v1/computers", all -> named(all.get("computers"), "TRIPOD").path("disks").size() == 2)
            .get("computers"), "TRIPOD");
        String id = StreamSupport.stream(computer.get("disks").spliterator(), false)
            .filter(each -> each.get("name").asText().equals("tripod-disk.img")).findFirst().orElseThrow().get("id").asText();

        JsonNode here = capture(id, "granary-folder", "TRIPOD-here");
        Tools.run(HOME.resolve("images/TRIPOD-here"), "sha256sum -c manifest-sha256.txt && zstd -t data/*zst*");
        JsonNode own = capture(id, there.get("id").asText(), "TRIPOD-there");
        Tools.run(drive.resolve("granary-images/TRIPOD-there"), "sha256sum -c manifest-sha256.txt && zstd -t data/*zst*");
        assertFalse(read("/api/v1/images/" + own.get("imageId").asText()).get("checks").isEmpty());

        String restore = restore(here.get("imageId").asText(), "empty.img");
        JsonNode done = until("/api/v1/restore", lines -> List.of("done", "failed").contains(lines.get(0).get("state").asText())).get(0);
        assertEquals(restore, done.get("id").asText());
        assertEquals("done", done.get("state").asText(), done.toString());
        assertEquals(Tools.run(folder, "sfdisk -d tripod-disk.img | sed 's/.*img//' | grep start"),
            Tools.run(folder, "sfdisk -d empty.img | sed 's/.*img//' | grep start"));
        assertTrue(diskOf("TRIPOD").length() > 3);
    }

    private String restore(String imageId, String onto) throws Exception {
        JsonNode target = named(read("/api/v1/targets"), onto);
        String serial = target.get("serial").asText();
        ObjectNode order = json.createObjectNode().put("imageId", imageId).put("targetId", target.get("id").asText())
            .put("computer", "").put("strategy", "keep").put("confirmation", serial.substring(serial.length() - 4));
        List.of("stay", "othersStay", "zeroUnused", "acceptDamage", "skipCheck").forEach(no -> order.put(no, false));
        return send(post("/api/v1/restore"), order).get("id").asText();
    }

    /** The cable is pulled in the middle of each way of the bytes, and every one of them comes to its end. */
    @Test
    void whatIsUnderWayWaitsForTheCableAndGoesOn() throws Exception {
        Path folder = Files.createDirectories(HOME.resolve("fell"));
        Path drive = Files.createDirectories(folder.resolve("FELL-DRIVE"));
        Tools.run(folder, "mkdir in; head -c 24M /dev/urandom > in/noise; mkfs.ext4 -q -d in noise.img 64M; truncate -s 80M bare.img");
        try (Cable cable = new Cable(port.port(), 60_000_000)) {
            join("FELL", cable.port(), "--disk", folder.resolve("noise.img").toString(), "--disk", folder.resolve("bare.img").toString(),
                "--drive", drive.toString());
            String there = named(until("/api/v1/destinations", all -> !named(all, "FELL-DRIVE").isMissingNode()), "FELL-DRIVE").get("id")
                .asText();
            JsonNode computer = named(until("/api/v1/computers", all -> named(all.get("computers"), "FELL").path("disks").size() == 2)
                .get("computers"), "FELL");
            String disk = StreamSupport.stream(computer.get("disks").spliterator(), false)
                .filter(each -> each.get("name").asText().equals("noise.img")).findFirst().orElseThrow().get("id").asText();
            JsonNode here = order(disk, "granary-folder", "FELL-here");
            pulledFor(cable, 3_000);
            JsonNode made = ended(here);
            assertEquals("done", made.get("state").asText(), made.toString());
            Tools.run(HOME.resolve("images/FELL-here"), "sha256sum -c manifest-sha256.txt && zstd -t data/*zst*");

            JsonNode own = order(disk, there, "FELL-there");
            pulledFor(cable, 3_000);
            assertEquals("done", ended(own).get("state").asText());
            Tools.run(drive.resolve("granary-images/FELL-there"), "sha256sum -c manifest-sha256.txt && zstd -t data/*zst*");

            until("/api/v1/targets", all -> !named(all, "bare.img").isMissingNode());
            String restore = restore(made.get("imageId").asText(), "bare.img");
            pulledFor(cable, 3_000);
            JsonNode all = until("/api/v1/restore", lines -> StreamSupport.stream(lines.spliterator(), false).anyMatch(
                each -> each.get("id").asText().equals(restore) && List.of("done", "failed").contains(each.get("state").asText())));
            assertTrue(all.toString().contains("\"state\":\"done\""), all.toString());
            sendAway();
            Tools.run(folder, "truncate -s 64M bare.img; e2fsck -fn bare.img; debugfs -R 'dump noise out' bare.img; cmp out in/noise");
        }
    }

    /** Once it has begun to move bytes. */
    private void pulledFor(Cable cable, long millis) throws Exception {
        until("/api/v1/runs/live", live -> !live.isEmpty());
        Thread.sleep(400);
        cable.pull();
        Thread.sleep(millis);
        cable.plug();
    }
}
