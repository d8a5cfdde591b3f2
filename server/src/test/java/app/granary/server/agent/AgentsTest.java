package app.granary.server.agent;

import static org.hamcrest.Matchers.containsString;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.delete;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.agent.AgentCommand;
import app.granary.core.agent.JoinCode;
import app.granary.core.agent.Protocol;
import app.granary.engine.hosts.Member;
import app.granary.engine.host.LocalLender;
import app.granary.engine.hosts.Serving;
import app.granary.engine.media.Tools;
import app.granary.engine.remote.ServedFolder;
import app.granary.server.ServerTestBase;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.WebSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.cert.X509Certificate;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManager;
import javax.net.ssl.X509ExtendedTrustManager;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.mockito.Mockito;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.test.web.server.LocalServerPort;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;

/** Computers that join over TLS on loopback, by the agent itself, and strangers at the same port. */
@SpringBootTest(webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT, properties = {"granary.demo=true", "granary.pace=1000",
    "granary.promised-after=86400000", "granary.reconciled-after=P1D", "granary.listen=127.0.0.1:0", "granary.agent-archive=pom.xml"})
@WithMockUser(username = "technician", roles = "TECHNICIAN")
class AgentsTest extends ServerTestBase {
    private static final String AT_EPOCH = ",\"secret\":\"x\",\"name\":\"n\",\"clock\":\"1970-01-01T00:00:00Z\"}";

    @TempDir
    Path folder;
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;
    @Autowired
    private AgentPort port;
    @Autowired
    private Agents agents;
    @Autowired
    private AgentsHere here;
    @Autowired
    private Lendings lendings;
    @Autowired
    private AgentRowRepository rows;
    @LocalServerPort
    private int pages;

    private String url() {
        return "https://127.0.0.1:" + port.port();
    }

    private JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    private String code() throws Exception {
        JsonNode made = json.readTree(http.perform(post("/api/v1/agents/codes").with(csrf().asHeader())).andExpect(status().isOk())
            .andReturn().getResponse().getContentAsString());
        assertEquals("granary-agent join " + url() + " --code " + made.get("code").asText(), made.get("command").asText());
        return made.get("code").asText();
    }

    /** What an agent says before it ends by itself. */
    private String refused(String code) {
        ByteArrayOutputStream said = new ByteArrayOutputStream();
        PrintStream before = System.err;
        System.setErr(new PrintStream(said, true, StandardCharsets.UTF_8));
        try {
            assertEquals(1, AgentCommand.run("join", url(), "--code", code, "--name", "STRANGER"));
        } finally {
            System.setErr(before);
        }
        return said.toString(StandardCharsets.UTF_8);
    }

    @Test
    void aComputerJoinsIsHereWithItsDisksAndIsSentAway() throws Exception {
        Tools.run(folder, "truncate -s 64M field.img; mkfs.ext4 -q -F field.img");
        String code = code();
        CompletableFuture<Integer> agent = CompletableFuture.supplyAsync(
            () -> AgentCommand.run("join", url(), "--code", code, "--name", "TRIPOD", "--disk", folder.resolve("field.img").toString()));
        JsonNode line = null;
        for (int i = 0; i < 300 && (line == null || line.get("disks").asInt() == 0); i++) {
            Thread.sleep(100);
            JsonNode all = read("/api/v1/agents");
            line = all.isEmpty() ? null : all.get(0);
        }
        assertTrue(line != null && line.get("disks").asInt() > 0, "it told of its disks");
        assertEquals("TRIPOD", line.get("name").asText());
        assertEquals("here", line.get("state").asText());
        assertTrue(!line.get("computerId").isNull(), "a computer of that name is on record");
        for (int i = 0; i < 100 && rows.findAll().stream().allMatch(row -> row.agent().disks().isEmpty()); i++) {
            Thread.sleep(50);
        }
        assertEquals(line.get("disks").asInt(), rows.findAll().get(0).agent().disks().size(),
            "by its disks it is known again, also after a restart");
        assertTrue(refused(code).contains("was used already"), "a code is good once");
        http.perform(delete("/api/v1/agents/" + line.get("id").asText()).with(csrf().asHeader())).andExpect(status().isNoContent());
        assertEquals(1, agent.get(30, TimeUnit.SECONDS), "it ends when it is sent away");
        assertEquals(0, read("/api/v1/agents").size());
    }

    @Test
    void whoHasNoCodeOfThisOfficeDoesNotComeIn() throws Exception {
        JoinCode own = JoinCode.parse(code()).orElseThrow();
        assertTrue(refused(new JoinCode("0000000000", own.fingerprint()).text()).contains("does not know that code"));
        assertTrue(refused(new JoinCode(own.secret(), "0000000000000000").text()).contains("Nothing was told to it"),
            "the code is of another office, so its secret is not even sent");
        assertTrue(refused("hello").contains("is no code"));
        for (String[] wrong : new String[][] {{"{\"protocol\":99,\"secret\":\"x\",\"name\":\"n\",\"clock\":\"2026-11-27T12:00:00Z\"}",
            "version 99"}, {"{\"protocol\":" + Protocol.VERSION + ",\"secret\":\"x\",\"name\":\"n\",\"clock\":\"1970-01-01T00:00:00Z\"}",
            "Set it right"},
            {"{\"protocol\":2}", "detail"}, {"[", "detail"}, {"{\"secret\":\"" + "x".repeat(100_000) + "\"}", "detail"}}) {
            HttpResponse<String> answer = stranger("/agents/join", wrong[0]);
            assertTrue(answer.statusCode() >= 400 && answer.statusCode() < 500 && answer.body().contains(wrong[1]), answer.body());
        }
    }

    /** What is fetched over a line nobody trusts yet is compared by its first digits with what the page, which is trusted, says. */
    @Test
    void theAgentIsFetchedThereAndComparedByItsDigits() throws Exception {
        JsonNode made = json.readTree(http.perform(post("/api/v1/agents/codes").with(csrf().asHeader())).andReturn().getResponse()
            .getContentAsString());
        assertEquals("curl -kO " + url() + "/agents/agent.tar.gz", made.get("fetch").asText());
        assertEquals(java.nio.file.Files.readString(Path.of("pom.xml")), stranger("/agents/agent.tar.gz", null).body());
        assertEquals(Tools.run(Path.of("."), "sha256sum pom.xml").substring(0, 20), made.get("digits").asText().replace(" ", ""));
        http.perform(post("/api/v1/agents/archive").with(csrf().asHeader()).contentType("application/json")
            .content("{\"destinationId\":\"cairn\"}")).andExpect(status().isNoContent());
    }

    /** Pages on the agents' port, agents on the pages' port, and a line without a token that is known. */
    @Test
    void nothingElseIsOnThatPort() throws Exception {
        for (String path : new String[] {"/", "/today", "/api/v1/session", "/actuator/health", "/%61pi/v1/session"}) {
            assertEquals(404, stranger(path, null).statusCode(), path);
        }
        HttpResponse<String> page = HttpClient.newHttpClient().send(HttpRequest.newBuilder(
            URI.create("http://127.0.0.1:" + pages + "/agents/join")).POST(HttpRequest.BodyPublishers.ofString("{}"))
            .header("Content-Type", "application/json").build(), HttpResponse.BodyHandlers.ofString());
        assertEquals(404, page.statusCode());
        ExecutionException refused = assertThrows(ExecutionException.class,
            () -> client().newWebSocketBuilder().header("Authorization", "Bearer " + "0".repeat(64))
                .buildAsync(URI.create("wss://127.0.0.1:" + port.port() + "/agents/channel"), Mockito.mock(WebSocket.Listener.class))
                .get(10, TimeUnit.SECONDS));
        assertTrue(refused.getMessage().contains("Handshake"), refused.getMessage());
    }

    @Test
    @WithMockUser(username = "manager", roles = "VIEWER")
    void aViewerSeesThemAndOrdersNothing() throws Exception {
        http.perform(get("/api/v1/agents")).andExpect(status().isOk());
        http.perform(post("/api/v1/agents/codes").with(csrf().asHeader())).andExpect(status().isForbidden())
            .andExpect(jsonPath("$.detail", containsString("may look")));
    }

    /** It has joined, and speaks and asks as it likes. */
    @Test
    void aRogueAgentReachesNothingAndIsSentOffTheLine() throws Exception {
        Path root = java.nio.file.Files.createDirectories(folder.resolve("drive/granary-images/OWN.partial")).getParent().getParent();
        java.nio.file.Files.writeString(folder.resolve("secret"), "secret");
        Agents.Joined one = agents.join("ONE", "technician");
        Agents.Joined other = agents.join("OTHER", "technician");
        Serving.Served lent = lendings.serve(new Member(one.agent().machine(), one.agent().host()),
            new LocalLender.Served(new ServedFolder(root, "granary-images", "OWN", Optional.of(() -> { })), ""));
        String token = lent.destinationId().split("/")[1];
        assertEquals(404, rogue(other.token(), "GET", token, "bytes?path=granary-images/OWN.partial&at=0&most=1", "").statusCode());
        assertEquals(404, rogue("0".repeat(64), "PUT", token, "bytes?path=granary-images/OWN.partial/x&at=0", "x").statusCode());
        assertEquals(409, rogue(one.token(), "GET", token, "bytes?path=../secret&at=0&most=9", "").statusCode());
        assertEquals(409, rogue(one.token(), "PUT", token, "bytes?path=granary-images/OTHER/x&at=0", "x").statusCode());
        assertEquals(409, rogue(one.token(), "PUT", token, "bytes?path=granary-images/OWN.partial/x&at=-9", "x").statusCode());
        assertEquals(400, rogue(one.token(), "GET", token, "bytes?path=granary-images/OWN.partial/x&at=none&most=1", "").statusCode());
        try {
            assertEquals(413, rogue(one.token(), "PUT", token, "bytes?path=granary-images/OWN.partial/x&at=0", "x".repeat((8 << 20) + 1))
                .statusCode());
        } catch (IOException cutOff) { // the office ends the connection without reading on, and that may come first
        }
        assertFalse(java.nio.file.Files.exists(root.resolve("granary-images/OWN.partial/x")));
        String ask = "{\"is\":\"Ask\",\"key\":\"" + new java.util.UUID(1, 2)
            + "\",\"port\":\"PORT\",\"of\":\"\",\"call\":\"CALL\",\"arguments\":[]}";
        for (String[] call : new String[][] {{"host", "sweep()"}, {"files", "close()"}, {"files", "getClass()"}, {"files",
            "room(String)"}}) {
            HttpResponse<String> answer = rogue(one.token(), "POST", token, "calls", ask.replace("PORT", call[0]).replace("CALL", call[1]));
            assertTrue(answer.body().contains("Refused"), answer.body());
        }
        assertEquals(409, rogue(one.token(), "POST", token, "calls", "{\"is\":\"Stop\"}").statusCode());
        lent.close();
        assertEquals(404, rogue(one.token(), "GET", token, "bytes?path=granary-images/OWN&at=0&most=1", "").statusCode());
        sentOffTheLine(one.token());
        assertEquals(2, read("/api/v1/agents").size());
        AgentsHere afterwards = new AgentsHere(rows, java.time.Clock.systemUTC());
        afterwards.remember();
        assertTrue(afterwards.of(one.token()).isPresent(), "it is known after a restart, by what it shows");
        assertTrue(rows.findAll().stream().noneMatch(row -> json.valueToTree(row).toString().contains(one.token())), "which is not kept");
        agents.sendAway(one.agent().id(), "technician");
        agents.sendAway(other.agent().id(), "technician");
        assertEquals(0, rows.count());
    }

    private void theNetworkIsMeasuredByThoseWhoJoined(String token) throws Exception {
        assertEquals(401, rogue("0".repeat(64), "GET", "..", "network?bytes=1", "").statusCode());
        assertEquals(400, rogue(token, "GET", "..", "network?bytes=4194305", "").statusCode());
        assertEquals(64, rogue(token, "GET", "..", "network?bytes=64", "").headers().firstValueAsLong("Content-Length").orElse(0));
    }

    private void sentOffTheLine(String token) throws Exception {
        theNetworkIsMeasuredByThoseWhoJoined(token);
        for (String said : new String[] {"", "{}", "[".repeat(100_000), "x".repeat(17 << 20)}) {
            CompletableFuture<String> closed = new CompletableFuture<>();
            WebSocket line = client().newWebSocketBuilder().header("Authorization", "Bearer " + token)
                .buildAsync(URI.create("wss://127.0.0.1:" + port.port() + "/agents/channel"), new WebSocket.Listener() {
                    @Override
                    public java.util.concurrent.CompletionStage<?> onClose(WebSocket on, int status, String reason) {
                        closed.complete(reason);
                        return null;
                    }

                    @Override
                    public void onError(WebSocket on, Throwable why) {
                        closed.complete("broken");
                    }
                }).get(10, TimeUnit.SECONDS);
            line.sendText(said, true);
            assertTrue(closed.get(30, TimeUnit.SECONDS).matches("what was told could not be read|broken"), closed.get());
        }
    }

    private HttpResponse<String> rogue(String token, String method, String folder, String path, String body) throws Exception {
        return client().send(HttpRequest.newBuilder(URI.create(url() + "/agents/files/" + folder + "/" + path).normalize())
            .header("Authorization", "Bearer " + token).header("Content-Type", "application/json")
            .method(method, body.isEmpty() ? HttpRequest.BodyPublishers.noBody() : HttpRequest.BodyPublishers.ofString(body)).build(),
            HttpResponse.BodyHandlers.ofString());
    }

    private HttpResponse<String> stranger(String path, String body) throws Exception {
        HttpRequest.Builder request = HttpRequest.newBuilder(URI.create(url() + path)).header("Content-Type", "application/json");
        return client().send((body == null ? request.GET() : request.POST(HttpRequest.BodyPublishers.ofString(body))).build(),
            HttpResponse.BodyHandlers.ofString());
    }

    /** A stranger looks at no certificate. */
    private static HttpClient client() throws IOException {
        try {
            SSLContext anyone = SSLContext.getInstance("TLSv1.3");
            X509ExtendedTrustManager trusting = Mockito.mock(X509ExtendedTrustManager.class);
            Mockito.when(trusting.getAcceptedIssuers()).thenReturn(new X509Certificate[0]);
            anyone.init(null, new TrustManager[] {trusting}, null);
            return HttpClient.newBuilder().sslContext(anyone).build();
        } catch (java.security.GeneralSecurityException impossible) {
            throw new IOException(impossible);
        }
    }
}
