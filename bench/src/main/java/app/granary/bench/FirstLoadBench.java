package app.granary.bench;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.WebSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.TimeUnit;

/** The first load of the front end in Debian's Chromium, told by the browser itself over its debugging protocol. */
final class FirstLoadBench implements WebSocket.Listener {
    private static final int PORT = 9497;
    private static final int LOADS = 5;
    private static final long SETTLED_MILLIS = 3000;
    private static final ObjectMapper JSON = new ObjectMapper();
    private static final String WATCH = "window.shifted = 0; window.largest = 0;"
        + "new PerformanceObserver(l => l.getEntries().forEach(e => window.shifted += e.value)).observe({type: 'layout-shift', buffered: "
        + "true});"
        + "new PerformanceObserver(l => l.getEntries().forEach(e => window.largest = e.startTime)).observe({type: "
        + "'largest-contentful-paint', buffered: true});";
    private static final String TELL = "JSON.stringify([performance.getEntriesByType('resource').filter(e => /\\.(js|css)$/.test(new "
        + "URL(e.name).pathname)).reduce((n, e) => n + e.encodedBodySize, 0), window.largest, window.shifted])";

    private final StringBuilder text = new StringBuilder();
    private final Map<Integer, CompletableFuture<JsonNode>> asked = new ConcurrentHashMap<>();
    private WebSocket socket;
    private int number;

    private FirstLoadBench() {
    }

    /**
     * @param bytes         of script and style, compressed
     * @param largestMillis when the largest content was painted; the median of the loads
     * @param shift         layout shift, the largest of the loads
     */
    record Figures(double bytes, double largestMillis, double shift) {
    }

    static Figures run(String url) throws IOException, InterruptedException {
        Path profile = Files.createTempDirectory("granary-chromium-");
        Process chromium = new ProcessBuilder("chromium", "--headless", "--no-sandbox", "--disable-gpu", "--disable-background-networking",
            "--disable-component-update", "--disable-sync", "--no-first-run",
            "--remote-debugging-port=" + PORT, "--user-data-dir=" + profile, "about:blank").redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD).start();
        try {
            return new FirstLoadBench().loads(page(), url);
        } finally {
            chromium.destroy();
            chromium.waitFor(10, TimeUnit.SECONDS);
            Tool.shell("rm -rf '" + profile + "'");
        }
    }

    private static String page() throws IOException, InterruptedException {
        HttpClient http = HttpClient.newHttpClient();
        for (int i = 0; i < 100; i++) {
            try {
                String all = http.send(HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + PORT + "/json/list")).build(),
                    HttpResponse.BodyHandlers.ofString()).body();
                for (JsonNode each : JSON.readTree(all)) {
                    if (each.path("type").asText().equals("page")) {
                        return each.path("webSocketDebuggerUrl").asText();
                    }
                }
            } catch (IOException notYet) {
                // it is still starting
            }
            Thread.sleep(200);
        }
        throw new IOException("Chromium did not start");
    }

    private Figures loads(String page, String url) throws IOException, InterruptedException {
        socket = HttpClient.newHttpClient().newWebSocketBuilder().buildAsync(URI.create(page), this).join();
        ask("Page.enable", "{}");
        ask("Page.bringToFront", "{}");
        ask("Page.addScriptToEvaluateOnNewDocument", "{\"source\":" + JSON.writeValueAsString(WATCH) + "}");
        double[] largest = new double[LOADS];
        double bytes = 0;
        double shift = 0;
        for (int i = 0; i < LOADS; i++) {
            ask("Network.clearBrowserCache", "{}");
            ask("Page.navigate", "{\"url\":\"" + url + "\"}");
            Thread.sleep(SETTLED_MILLIS);
            JsonNode told = JSON
                .readTree(ask("Runtime.evaluate", "{\"returnByValue\":true,\"expression\":" + JSON.writeValueAsString(TELL) + "}")
                    .at("/result/result/value").asText());
            bytes = told.get(0).asDouble();
            largest[i] = told.get(1).asDouble();
            shift = Math.max(shift, told.get(2).asDouble());
        }
        Arrays.sort(largest);
        return new Figures(bytes, largest[LOADS / 2], shift);
    }

    private JsonNode ask(String method, String params) throws IOException {
        int own = ++number;
        CompletableFuture<JsonNode> answer = new CompletableFuture<>();
        asked.put(own, answer);
        socket.sendText("{\"id\":" + own + ",\"method\":\"" + method + "\",\"params\":" + params + "}", true).join();
        try {
            return answer.get(30, TimeUnit.SECONDS);
        } catch (InterruptedException | java.util.concurrent.ExecutionException | java.util.concurrent.TimeoutException failed) {
            throw new IOException(method + " was not answered", failed);
        }
    }

    @Override
    public CompletionStage<?> onText(WebSocket from, CharSequence data, boolean last) {
        text.append(data);
        if (last) {
            try {
                JsonNode message = JSON.readTree(text.toString());
                CompletableFuture<JsonNode> waiting = asked.remove(message.path("id").asInt());
                if (waiting != null) {
                    waiting.complete(message);
                }
            } catch (IOException unreadable) {
                asked.values().forEach(each -> each.completeExceptionally(unreadable));
            }
            text.setLength(0);
        }
        from.request(1);
        return null;
    }
}
