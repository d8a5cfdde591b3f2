package app.granary.bench;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.Reader;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A server of the built Granary over this machine's devices, asked as a browser asks. */
final class OfficeServer implements AutoCloseable {
    private static final ObjectMapper JSON = new ObjectMapper();
    private static final String ACCOUNT = "{\"name\":\"bench\",\"password\":\"a password for the bench\"}";

    private final Process server;
    private final String url;
    private final Path log;
    private final CookieManager cookies = new CookieManager();
    private final HttpClient http = HttpClient.newBuilder().cookieHandler(cookies).build();

    /** @param options more of those {@code ./granary run} takes */
    OfficeServer(String granary, Path home, String... options) throws IOException, InterruptedException {
        this(List.of(), granary, home, options);
    }

    /** @param within the command that starts it, such as taskset */
    OfficeServer(List<String> within, String granary, Path home, String... options) throws IOException, InterruptedException {
        int port = 8497;
        log = home.resolveSibling("server.log");
        List<String> command = new ArrayList<>(within);
        command.addAll(List.of(granary, "run"));
        command.addAll(List.of(options));
        ProcessBuilder builder = new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(log.toFile());
        builder.environment().put("GRANARY_HOME", home.toString());
        builder.environment().put("GRANARY_PORT", "" + port);
        server = builder.start();
        url = "http://127.0.0.1:" + port;
        for (int i = 0; !answers(); i++) {
            if (i > 600 || !server.isAlive()) {
                throw new IOException("the server did not start, see " + log);
            }
            Thread.sleep(500);
        }
    }

    /** The database of a home while no server runs on it, as its owner. */
    static Connection database(Path home) throws SQLException {
        try (Reader file = Files.newBufferedReader(home.resolve("db/keys"))) {
            Properties keys = new Properties();
            keys.load(file);
            return DriverManager.getConnection("jdbc:h2:file:" + home.resolve("db/granary").toAbsolutePath(), "granary",
                keys.getProperty("owner"));
        } catch (IOException unreadable) {
            throw new SQLException(unreadable);
        }
    }

    private boolean answers() throws InterruptedException {
        try {
            return send("GET", "/api/v1/session", "", "application/json").statusCode() == 200;
        } catch (IOException notYet) {
            return false;
        }
    }

    HttpResponse<String> send(String method, String path, String body, String type) throws IOException, InterruptedException {
        String token = cookies.getCookieStore().getCookies().stream().filter(c -> c.getName().equals("XSRF-TOKEN"))
            .map(HttpCookie::getValue).findFirst().orElse("");
        return http.send(HttpRequest.newBuilder(URI.create(url + path)).header("Content-Type", type).header("X-XSRF-TOKEN", token)
            .method(method, body.isEmpty() ? HttpRequest.BodyPublishers.noBody() : HttpRequest.BodyPublishers.ofString(body)).build(),
            HttpResponse.BodyHandlers.ofString());
    }

    String url() {
        return url;
    }

    /** Its own, or that of the program it started in its place; a script may stand before it. */
    long pid() {
        return server.descendants().mapToLong(ProcessHandle::pid).max().orElse(server.pid());
    }

    /** Printed at the end of the address, a moment after the server answers. */
    private String word() throws IOException, InterruptedException {
        for (int i = 0; i < 100; i++) {
            Matcher word = Pattern.compile("word=(\\S+)").matcher(Files.readString(log));
            if (word.find()) {
                return word.group(1);
            }
            Thread.sleep(100);
        }
        return "";
    }

    /** On the first visit an account is made, later it signs in. */
    void enter(boolean first) throws IOException, InterruptedException {
        require(send("POST", first ? "/api/v1/session/first" : "/api/v1/session",
            first ? ACCOUNT.replace("}", ",\"word\":\"" + word() + "\"}") : ACCOUNT, "application/json"));
        require(send("GET", "/api/v1/session", "", "application/json"));
    }

    String get(String path) throws IOException, InterruptedException {
        return require(send("GET", path, "", "application/json"));
    }

    String post(String path, String body, String type) throws IOException, InterruptedException {
        return require(send("POST", path, body, type));
    }

    /**
     * Asks for an image by zstd, level 3.
     *
     * @param all whether every block is read
     * @return the run's id
     */
    String capture(String diskId, String destinationId, String name, boolean all) throws IOException, InterruptedException {
        return JSON.readTree(post("/api/v1/runs", "{\"diskId\":\"" + diskId + "\",\"destinationId\":\"" + destinationId
            + "\",\"name\":\"" + name + "\",\"codec\":\"zstd\",\"level\":3,\"splitBytes\":null,\"allBlocks\":" + all
            + ",\"keepSwap\":" + all + ",\"without\":[],\"passphrase\":null}", "application/json")).get("id").asText();
    }

    /** How a run ended; empty while it has not. */
    Optional<JsonNode> ended(String run) throws IOException, InterruptedException {
        return Optional.of(JSON.readTree(get("/api/v1/runs/" + run))).filter(now -> !now.get("endedAt").isNull());
    }

    /** Milliseconds of the answer that so many in a hundred are quicker than; those before warm the server. */
    double answer(int percent, String path, int asked, Predicate<String> complete) throws IOException, InterruptedException {
        double[] millis = new double[asked];
        for (int i = -100; i < asked; i++) {
            long began = System.nanoTime();
            String all = get(path);
            if (i >= 0) {
                millis[i] = (System.nanoTime() - began) / 1e6;
            }
            if (!complete.test(all)) {
                throw new IOException("not all came: " + all.substring(0, Math.min(300, all.length())));
            }
        }
        Arrays.sort(millis);
        return millis[asked * percent / 100];
    }

    private static String require(HttpResponse<String> response) throws IOException {
        if (response.statusCode() / 100 != 2) {
            throw new IOException(response.statusCode() + " " + response.body());
        }
        return response.body();
    }

    @Override
    public void close() throws InterruptedException {
        server.descendants().forEach(ProcessHandle::destroy);
        server.destroy();
        server.waitFor();
    }

    /** As {@code kill -9} does. */
    void kill() throws InterruptedException {
        server.descendants().forEach(ProcessHandle::destroyForcibly);
        server.destroyForcibly();
        server.waitFor();
    }
}
