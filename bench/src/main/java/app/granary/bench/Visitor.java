package app.granary.bench;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.Map;
import java.util.concurrent.CompletableFuture;

/** One browser of the attack, with its own cookies; it speaks to this machine's own server and to nothing else. */
final class Visitor {
    private static final ObjectMapper JSON = new ObjectMapper();
    private static final Duration PATIENCE = Duration.ofSeconds(60);
    private final String url;
    private final CookieManager cookies = new CookieManager();
    private final HttpClient http = HttpClient.newBuilder().cookieHandler(cookies).version(HttpClient.Version.HTTP_1_1).build();

    Visitor(String url) {
        if (!url.startsWith("http://127.0.0.1:")) {
            throw new IllegalArgumentException("only this machine's own server is attacked");
        }
        this.url = url;
    }

    private HttpRequest request(String method, String path, HttpRequest.BodyPublisher body, String type) {
        String token = cookies.getCookieStore().getCookies().stream().filter(c -> c.getName().equals("XSRF-TOKEN"))
            .map(HttpCookie::getValue).findFirst().orElse("");
        return HttpRequest.newBuilder(URI.create(url + path)).header("Content-Type", type).header("X-XSRF-TOKEN", token).timeout(PATIENCE)
            .method(method, body).build();
    }

    /** @return the status; 0 when the connection was closed */
    int ask(String method, String path, String body) throws InterruptedException {
        try {
            return http.send(request(method, path, HttpRequest.BodyPublishers.ofString(body), "application/json"),
                HttpResponse.BodyHandlers.discarding()).statusCode();
        } catch (IOException closed) {
            return 0;
        }
    }

    CompletableFuture<Integer> askAside(String method, String path, byte[] body, String type) {
        return http
            .sendAsync(request(method, path, HttpRequest.BodyPublishers.ofByteArray(body), type), HttpResponse.BodyHandlers.discarding())
            .thenApply(HttpResponse::statusCode).exceptionally(closed -> 0);
    }

    String read(String path) throws IOException, InterruptedException {
        return http
            .send(request("GET", path, HttpRequest.BodyPublishers.noBody(), "application/json"), HttpResponse.BodyHandlers.ofString())
            .body();
    }

    JsonNode post(String path, Map<String, ?> body) throws IOException, InterruptedException {
        return JSON.readTree(
            http.send(request("POST", path, HttpRequest.BodyPublishers.ofString(JSON.writeValueAsString(body)), "application/json"),
                HttpResponse.BodyHandlers.ofString()).body());
    }

    /** Milliseconds until a page is answered. */
    double answersAfter(String path) throws IOException, InterruptedException {
        long began = System.nanoTime();
        read(path);
        return (System.nanoTime() - began) / 1e6;
    }
}
