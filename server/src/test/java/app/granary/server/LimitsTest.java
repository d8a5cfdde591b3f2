package app.granary.server;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.server.account.Accounts;
import java.io.IOException;
import java.io.OutputStream;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.boot.WebApplicationType;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.boot.web.servlet.context.ServletWebServerApplicationContext;
import org.springframework.context.ConfigurableApplicationContext;

/** 24 bodies of 19 MB side by side ended in an OutOfMemoryError, and 230 slow connections kept every page from being answered. */
@Tag("large")
class LimitsTest {
    private static final Duration SOON = Duration.ofSeconds(30);
    @TempDir
    Path home;
    private final CookieManager cookies = new CookieManager();
    private final HttpClient http = HttpClient.newBuilder().cookieHandler(cookies).version(HttpClient.Version.HTTP_1_1).build();
    private ConfigurableApplicationContext server;
    private int port;

    @BeforeEach
    void start() throws Exception {
        server = new SpringApplicationBuilder(Server.class).web(WebApplicationType.SERVLET).run("--granary.home=" + home,
            "--server.port=0");
        port = ((ServletWebServerApplicationContext) server).getWebServer().getPort();
        send("GET", "/api/v1/session", null);
        String word = server.getBean(Accounts.class).firstWord().orElseThrow();
        assertEquals(201,
            send("POST", "/api/v1/session/first", "{\"name\":\"ada\",\"password\":\"four plain words here\",\"word\":\"" + word + "\"}")
                .statusCode());
    }

    @AfterEach
    void stop() {
        server.close();
    }

    private HttpRequest request(String method, String path, String body) {
        return request(method, path, body == null ? HttpRequest.BodyPublishers.noBody() : HttpRequest.BodyPublishers.ofString(body));
    }

    private HttpRequest request(String method, String path, HttpRequest.BodyPublisher body) {
        String token = cookies.getCookieStore().getCookies().stream().filter(c -> c.getName().equals("XSRF-TOKEN"))
            .map(HttpCookie::getValue).findFirst().orElse("");
        return HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
            .header("Content-Type", path.contains("/imports/") ? "text/plain" : "application/json")
            .header("X-XSRF-TOKEN", token).timeout(Duration.ofSeconds(90))
            .method(method, body).build();
    }

    private HttpResponse<String> send(String method, String path, String body) throws IOException, InterruptedException {
        return http.send(request(method, path, body), HttpResponse.BodyHandlers.ofString());
    }

    private void assertPagesAnswer() throws Exception {
        for (String page : List.of("/", "/api/v1/session", "/api/v1/today")) {
            HttpResponse<String> answer = http
                .sendAsync(request("GET", page, HttpRequest.BodyPublishers.noBody()), HttpResponse.BodyHandlers.ofString())
                .get(SOON.toSeconds(), TimeUnit.SECONDS);
            assertTrue(answer.statusCode() == 200 || page.equals("/"), page + ": " + answer.statusCode());
        }
    }

    /** As it is: a body of an array is copied whole for each request, and two dozen copies fill this process, which is the server's too. */
    private static HttpRequest.BodyPublisher uncopied(byte[] body) {
        return HttpRequest.BodyPublishers
            .fromPublisher(HttpRequest.BodyPublishers.ofInputStream(() -> new java.io.ByteArrayInputStream(body)), body.length);
    }

    @Test
    void largeBodiesSideBySideLeaveThePagesAnswering() throws Exception {
        byte[] large = ("{\"x\":\"" + "a".repeat(18_900_000) + "\"}").getBytes(StandardCharsets.US_ASCII);
        List<CompletableFuture<HttpResponse<String>>> all = new ArrayList<>();
        for (int i = 0; i < 24; i++) {
            all.add(http.sendAsync(request("POST", "/api/v1/imports/review", uncopied(large)), HttpResponse.BodyHandlers.ofString()));
        }
        assertPagesAnswer();
        Map<String, Integer> answers = new TreeMap<>();
        for (CompletableFuture<HttpResponse<String>> each : all) {
            try {
                answers.merge("" + each.get(120, TimeUnit.SECONDS).statusCode(), 1, Integer::sum);
            } catch (java.util.concurrent.ExecutionException closed) {
                answers.merge("closed", 1, Integer::sum); // it was told no while it was still sending
            }
        }
        System.out.println("24 bodies of 19 MB: " + answers);
        assertTrue(answers.keySet().stream().noneMatch(each -> each.equals("500")), answers.toString());
        assertEquals(413, status("POST", "/api/v1/journal/notes", "{\"text\":\"" + "a".repeat(1_100_000) + "\"}"));
        assertPagesAnswer();
    }

    private int status(String method, String path, String body) throws InterruptedException {
        try {
            return send(method, path, body).statusCode();
        } catch (IOException closedWhileSending) {
            return 413;
        }
    }

    @Test
    void slowConnectionsLeaveThePagesAnswering() throws Exception {
        List<Socket> slow = new ArrayList<>();
        try {
            for (int i = 0; i < 230; i++) {
                Socket socket = new Socket("127.0.0.1", port);
                slow.add(socket);
                String head = i % 2 == 0
                    ? "POST /api/v1/session HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: "
                        + "4000\r\n\r\n{\"name\":"
                    : "GET / HTTP/1.1\r\nHost: localhost\r\nX-Slow: ";
                OutputStream out = socket.getOutputStream();
                out.write(head.getBytes(StandardCharsets.US_ASCII));
                out.flush();
            }
            for (int round = 0; round < 4; round++) {
                for (Socket each : slow) {
                    try {
                        each.getOutputStream().write('a');
                    } catch (IOException closed) {
                        // as it should be
                    }
                }
                assertPagesAnswer();
                assertEquals(204, send("POST", "/api/v1/journal/notes", "{\"text\":\"while they are slow\"}").statusCode());
                TimeUnit.MILLISECONDS.sleep(500);
            }
        } finally {
            for (Socket each : slow) {
                each.close();
            }
        }
    }
}
