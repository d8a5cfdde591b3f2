package app.granary.server.database;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.engine.media.Tools;
import app.granary.server.Server;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.BufferedReader;
import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.HashSet;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * A home on a real memory file system that is filled to its last byte under load, ten times. Before, 50 of 60 writes were answered "this
 * account may look but not change anything", and the ten that were acknowledged were gone after the restart.
 */
@Tag("large")
class FullHomeTest {
    private static final int ROUNDS = 10;
    @TempDir
    Path folder;
    private final CookieManager cookies = new CookieManager();
    private final HttpClient http = HttpClient.newBuilder().cookieHandler(cookies).build();
    private String address = "";

    private HttpResponse<String> send(String method, String path, String body) throws IOException, InterruptedException {
        String token = cookies.getCookieStore().getCookies().stream().filter(c -> c.getName().equals("XSRF-TOKEN"))
            .map(HttpCookie::getValue).findFirst().orElse("");
        return http.send(
            HttpRequest.newBuilder(URI.create(address + path)).header("Content-Type", "application/json").header("X-XSRF-TOKEN", token)
                .method(method, HttpRequest.BodyPublishers.ofString(body)).build(),
            HttpResponse.BodyHandlers.ofString());
    }

    private static String note(String text) throws IOException {
        return new ObjectMapper().writeValueAsString(Map.of("text", text));
    }

    @Test
    void aFullDriveLosesNothingThatWasAnsweredAndSaysTheTruth() throws Exception {
        Assumptions.assumeTrue(Tools.run(folder, "unshare -rm true 2> /dev/null && echo yes || echo no").strip().equals("yes"),
            "no mount namespaces here");
        Files.writeString(folder.resolve("run.sh"),
            "mkdir -p small; mount -t tmpfs -o size=260m none small; exec '" + Path.of(System.getProperty("java.home"), "bin", "java")
                + "' -Xmx256m -XX:TieredStopAtLevel=1 -cp '"
                + System.getProperty("java.class.path") + "' " + Server.class.getName() + " --granary.home=" + folder.resolve("small/home")
                + " --server.port=0");
        Process server = new ProcessBuilder("unshare", "-rm", "bash", folder.resolve("run.sh").toString()).directory(folder.toFile())
            .redirectErrorStream(true).start();
        List<String> kept = new ArrayList<>();
        Map<String, Integer> answers = new TreeMap<>();
        try {
            StringBuffer before = signedIn(server);
            Path small = Path.of("/proc/" + server.pid() + "/root" + folder.resolve("small"));
            for (int round = 0; round < ROUNDS; round++) {
                fill(round, small, kept, answers, before);
            }
            // what a kill at this moment would leave
            Tools.run(folder, "kill -STOP " + server.pid() + "; until grep -q 'State:.*stopped' /proc/" + server.pid()
                + "/status; do sleep 0.005; done; mkdir left; cp -r " + small + "/home/db left/");
        } finally {
            server.destroyForcibly().waitFor();
        }
        System.out.println(ROUNDS + " full drives: answers " + answers + ", kept " + kept.size());
        assertEquals(Set.of(), missing(kept));
        assertTrue(OwnDatabase.check(folder.resolve("left")).whole());
        assertTrue(answers.getOrDefault("507", 0) > 0 && kept.size() > 10, answers.toString());
    }

    /** @return what it says, as it says it */
    private StringBuffer signedIn(Process server) throws Exception {
        BufferedReader said = server.inputReader();
        String line = said.readLine();
        StringBuffer before = new StringBuffer();
        while (line != null && !line.startsWith("Granary is at ")) {
            before.append(line).append('\n');
            line = said.readLine();
        }
        assertTrue(line != null, before.toString());
        String printed = line == null ? "" : line.substring("Granary is at ".length());
        address = printed.substring(0, printed.indexOf("/?"));
        Thread rest = new Thread(() -> said.lines().forEach(each -> before.append(each).append('\n')));
        rest.setDaemon(true);
        rest.start();
        send("GET", "/api/v1/session", "");
        assertEquals(201, send("POST", "/api/v1/session/first", "{\"name\":\"ada\",\"password\":\"four plain words here\",\"word\":\""
            + printed.substring(printed.indexOf("word=") + 5) + "\"}").statusCode());
        return before;
    }

    private void fill(int round, Path small, List<String> kept, Map<String, Integer> answers, StringBuffer before) throws Exception {
        Thread filling = new Thread(() -> Tools.run(folder,
            "dd if=/dev/zero of=" + small + "/filling bs=1M status=none 2> /dev/null || true; sleep 1.2; dd if=/dev/zero of="
                + small
                + "/more bs=64k status=none 2> /dev/null || true"));
        filling.start();
        for (int i = 0; i < 30; i++) {
            String text = "round " + round + " note " + i;
            HttpResponse<String> answer = send("POST", "/api/v1/journal/notes", note(text));
            answers.merge("" + answer.statusCode(), 1, Integer::sum);
            if (answer.statusCode() == 204) {
                kept.add(text);
            } else {
                assertTrue(List.of(507, 503).contains(answer.statusCode()), answer.body());
                assertTrue(answer.body().contains("full") && !answer.body().contains("may look"), answer.body());
            }
            TimeUnit.MILLISECONDS.sleep(60);
        }
        filling.join();
        Tools.run(folder, "rm -f " + small + "/filling " + small + "/more");
        int status = 0;
        for (int i = 0; i < 100 && status != 204; i++) {
            TimeUnit.MILLISECONDS.sleep(100);
            status = send("POST", "/api/v1/journal/notes", note("again " + round + " " + i)).statusCode();
        }
        assertEquals(204, status, "it did not come back by itself after round " + round + "\n" + before);
    }

    private Set<String> missing(List<String> kept) throws Exception {
        Set<String> missing = new HashSet<>(kept);
        try (Connection database = OwnDatabase.open(folder.resolve("left"));
            Statement sql = database.createStatement();
            ResultSet rows = sql.executeQuery("select sentence from journal_entry")) {
            while (rows.next()) {
                missing.remove(rows.getString(1));
            }
        }
        return missing;
    }
}
