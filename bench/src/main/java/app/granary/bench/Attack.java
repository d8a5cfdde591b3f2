package app.granary.bench;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.OutputStream;
import java.net.Socket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;

/**
 * Attacks a Granary of its own, on this machine alone and within bounds, and prints a line for each thing it tried: who may ask what, paths
 * written otherwise, guesses, bodies, slow connections, kills. Ends with 1 when anything gave way.
 */
public final class Attack {
    private static final int FUZZED = 5000;
    private static final int KILLS = 5;
    private static final double SOON_MILLIS = 3000;
    private static final int NOTES = 300;
    private static final int ROUNDS_TO_WARM = 9;
    private static final double MOST_MILLIS = 10;
    private static final String PASSWORD = "four plain words here";
    private static final ObjectMapper JSON = new ObjectMapper();

    private final String granary;
    private final Path home;
    private final List<String> rows;
    private final Random random = new Random(5000);
    private boolean gaveWay;

    private Attack(String granary, Path home, List<String> rows) {
        this.granary = granary;
        this.home = home;
        this.rows = rows;
    }

    /** Arguments: the start script, a folder for the home, and the table of endpoints. */
    public static void main(String[] args) throws Exception {
        Path home = Files.createTempDirectory(Path.of(args[1]), "attack").resolve("home");
        Files.createDirectories(home);
        Attack attack = new Attack(args[0], home, Files.readAllLines(Path.of(args[2])));
        attack.run();
        System.exit(attack.gaveWay ? 1 : 0);
    }

    private void say(boolean held, String what) {
        gaveWay |= !held;
        System.out.println((held ? "held      " : "GAVE WAY  ") + what);
    }

    private void run() throws Exception {
        try (OfficeServer server = new OfficeServer(granary, home)) {
            Visitor nobody = new Visitor(server.url());
            nobody.read("/api/v1/session");
            say(nobody.ask("POST", "/api/v1/session/first",
                "{\"name\":\"mallory\",\"password\":\"" + PASSWORD + "\",\"word\":\"guess\"}") == 400,
                "the first account without the word that was printed");
            say(rebinding(server.url()) == 403, "a page whose name was made to lead here");
            server.enter(true);
            Visitor technician = signedIn(server.url(), "bench", "a password for the bench");
            Visitor viewer = invited(server.url(), technician, "looker");
            durable(technician);
            matrix(nobody, viewer);
            encodedPaths(server.url(), technician);
            fuzz(List.of(nobody, viewer, technician));
            guesses(server.url());
            bodies(technician);
            slow(server.url(), technician);
        }
        kills();
    }

    private static Visitor signedIn(String url, String name, String password) throws IOException, InterruptedException {
        Visitor visitor = new Visitor(url);
        visitor.read("/api/v1/session");
        visitor.post("/api/v1/session", Map.of("name", name, "password", password));
        visitor.read("/api/v1/session");
        return visitor;
    }

    private static Visitor invited(String url, Visitor by, String name) throws IOException, InterruptedException {
        String path = by.post("/api/v1/accounts/invitations", Map.of("name", name, "role", "viewer")).path("path").asText();
        Visitor visitor = new Visitor(url);
        visitor.read("/api/v1/session");
        visitor.post("/api/v1/session/invitation", Map.of("token", path.substring(path.indexOf('=') + 1), "password", PASSWORD));
        visitor.read("/api/v1/session");
        return visitor;
    }

    private static int rebinding(String url) throws IOException {
        try (Socket socket = new Socket("127.0.0.1", URI.create(url).getPort())) {
            socket.getOutputStream().write(
                "GET /api/v1/session HTTP/1.1\r\nHost: elsewhere.example\r\nConnection: close\r\n\r\n".getBytes(StandardCharsets.US_ASCII));
            return Integer.parseInt(new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8).split(" ")[1]);
        }
    }

    /**
     * What it costs that a note is on the device before it is answered: in the first minute after a start, while code is being compiled,
     * and after it.
     */
    private void durable(Visitor technician) throws InterruptedException {
        double first = notes(technician);
        for (int i = 0; i < ROUNDS_TO_WARM; i++) {
            notes(technician);
        }
        double warm = notes(technician);
        say(warm < MOST_MILLIS, String.format(
            "a note is kept on the device and answered within %.1f ms, 95 of 100; the first after a start within %.1f", warm, first));
    }

    private static double notes(Visitor technician) throws InterruptedException {
        double[] millis = new double[NOTES];
        for (int i = 0; i < NOTES; i++) {
            long began = System.nanoTime();
            technician.ask("POST", "/api/v1/journal/notes", "{\"text\":\"note " + i + "\"}");
            millis[i] = (System.nanoTime() - began) / 1e6;
        }
        java.util.Arrays.sort(millis);
        return millis[NOTES * 95 / 100];
    }

    private static String path(String row, String variable) {
        return row.split(" ")[2].replaceAll("\\{[^}]+}", variable);
    }

    private void matrix(Visitor nobody, Visitor viewer) throws InterruptedException {
        List<String> wrong = new ArrayList<>();
        for (String row : rows) {
            String who = row.split(" ")[0];
            String method = row.split(" ")[1];
            if (!who.equals("open") && nobody.ask(method, path(row, "x"), "{}") != 401) {
                wrong.add("nobody " + row);
            }
            if (who.equals("technician") && viewer.ask(method, path(row, "x"), "{}") != 403) {
                wrong.add("viewer " + row);
            }
        }
        say(wrong.isEmpty(),
            rows.size() + " endpoints asked by nobody and by a viewer: " + (wrong.isEmpty() ? "each is for whom it is for" : wrong));
    }

    private void encodedPaths(String url, Visitor technician) throws IOException, InterruptedException {
        Visitor closed = invited(url, technician, "leaver");
        int open = closed.ask("GET", "/api/v1/today", "");
        technician.ask("PUT", "/api/v1/accounts/leaver", "{\"role\":\"viewer\",\"closed\":true}");
        List<String> got = new ArrayList<>();
        for (String path : List.of("/api/v1/today", "/%61pi/v1/today", "/api/v1/%74oday", "/%61%70%69/v1/journal", "/api/v1/today;x=1",
            "//api/v1/today", "/api//v1/today", "/api/v1/./today", "/API/v1/today")) {
            if (closed.ask("GET", path, "") == 200 && closed.read(path).startsWith("{")) {
                got.add(path);
            }
        }
        say(open == 200 && got.isEmpty(),
            "a closed account by paths written otherwise: " + (got.isEmpty() ? "none led in" : got + " led in"));
    }

    private String junk() {
        List<String> values = List.of("null", "1e400", "-1", "9223372036854775807", "\"\"", "\"\\u0000\"", "\"" + "x".repeat(5000) + "\"",
            "[null]", "[[[[]]]]", "{}", "true", "\"../..\"", "\"2026-13-45\"");
        List<String> names = List.of("name", "role", "diskId", "destinationId", "imageId", "text", "images", "form", "confirmation",
            "targetId", "level", "codec", "passphrase", "corrects", "reason", "until", "kind", "on");
        StringBuilder out = new StringBuilder("{");
        for (int i = 0; i < random.nextInt(6); i++) {
            out.append(i == 0 ? "" : ",").append('"').append(names.get(random.nextInt(names.size()))).append("\":")
                .append(values.get(random.nextInt(values.size())));
        }
        out.append('}');
        return random.nextInt(10) == 0 ? out.substring(0, out.length() / 2) : out.toString();
    }

    private void fuzz(List<Visitor> visitors) throws Exception {
        long before = lines(visitors.get(2));
        int wrong = 0;
        int viewers = 0;
        List<String> first = new ArrayList<>();
        for (int i = 0; i < FUZZED; i++) {
            String row = rows.get(i % rows.size());
            String method = row.split(" ")[1];
            int who = random.nextInt(3);
            if (row.contains("sign-out-everywhere") || row.contains("DELETE /api/v1/session") || row.endsWith("/runs/events")
                || row.contains("POST /api/v1/session")) {
                continue;
            }
            int status = visitors.get(who).ask(method, path(row, List.of("x", "%00", "..%2f", "1", "%F0%9F%98%80").get(random.nextInt(5))),
                method.equals("GET") ? "" : junk());
            viewers += who < 2 && !method.equals("GET") && status < 400 && status > 0 ? 1 : 0;
            if (status == 0 || status >= 500 && status != 503) {
                wrong++;
                first.add(row + " " + status);
            }
        }
        String log = Files.readString(home.resolveSibling("server.log"));
        long traces = log.lines().filter(line -> line.startsWith("\tat ")).count();
        say(wrong == 0 && viewers == 0 && traces == 0,
            FUZZED + " requests of whatever can be sent: " + wrong + " wrong statuses" + first.stream().limit(3).toList() + ", " + viewers
                + " changes by who may only look, " + traces
                + " lines of stack traces, " + (lines(visitors.get(2)) - before) + " lines in the journal by the technician");
    }

    private static long lines(Visitor technician) throws IOException, InterruptedException {
        return JSON.readTree(technician.read("/api/v1/journal")).path("total").asLong();
    }

    private void guesses(String url) throws Exception {
        Visitor guesser = new Visitor(url);
        guesser.read("/api/v1/session");
        List<CompletableFuture<Integer>> all = new ArrayList<>();
        for (int i = 0; i < 200; i++) {
            all.add(guesser.askAside("POST", "/api/v1/session",
                ("{\"name\":\"looker\",\"password\":\"guess " + i + "\"}").getBytes(StandardCharsets.UTF_8), "application/json"));
        }
        int looked = 0;
        for (CompletableFuture<Integer> each : all) {
            looked += each.get(60, TimeUnit.SECONDS) == 401 ? 1 : 0;
        }
        TimeUnit.SECONDS.sleep(2);
        boolean in = signedIn(url, "bench", "a password for the bench").ask("GET", "/api/v1/today", "") == 200;
        say(looked <= 6 && in, "200 guesses side by side: " + looked + " were looked at; the technician could sign in beside them: " + in);
    }

    private void bodies(Visitor technician) throws Exception {
        byte[] large = new byte[19_000_000];
        java.util.Arrays.fill(large, (byte) 'a');
        List<CompletableFuture<Integer>> all = new ArrayList<>();
        for (int i = 0; i < 24; i++) {
            all.add(technician.askAside("POST", "/api/v1/imports/review", large, "text/plain"));
        }
        double millis = technician.answersAfter("/api/v1/today");
        for (CompletableFuture<Integer> each : all) {
            each.get(120, TimeUnit.SECONDS);
        }
        boolean memory = !Files.readString(home.resolveSibling("server.log")).contains("OutOfMemoryError");
        say(millis < SOON_MILLIS && memory,
            String.format("24 bodies of 19 MB side by side: Today answered within %.0f ms, memory held: %s", millis, memory));
    }

    private void slow(String url, Visitor technician) throws Exception {
        List<Socket> sockets = new ArrayList<>();
        for (int i = 0; i < 230; i++) {
            Socket socket = new Socket("127.0.0.1", URI.create(url).getPort());
            sockets.add(socket);
            OutputStream out = socket.getOutputStream();
            out.write(
                ("POST /api/v1/session HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: 4000\r\n\r\n{")
                    .getBytes(StandardCharsets.US_ASCII));
            out.flush();
        }
        double millis = technician.answersAfter("/api/v1/today");
        for (Socket each : sockets) {
            each.close();
        }
        say(millis < SOON_MILLIS, String.format("230 slow connections: Today answered within %.0f ms", millis));
    }

    private void kills() throws Exception {
        Set<String> done = new HashSet<>();
        for (int kill = 0; kill < KILLS; kill++) {
            OfficeServer server = new OfficeServer(granary, home);
            Visitor technician = signedIn(server.url(), "bench", "a password for the bench");
            long until = System.nanoTime() + random.nextInt(900) * 1_000_000L + 100_000_000L;
            for (int i = 0; System.nanoTime() < until; i++) {
                String text = "kill " + kill + " note " + i;
                if (technician.ask("POST", "/api/v1/journal/notes", "{\"text\":\"" + text + "\"}") == 204) {
                    done.add(text);
                }
            }
            server.kill();
        }
        Set<String> missing = new HashSet<>(done);
        try (OfficeServer server = new OfficeServer(granary, home)) {
            Visitor technician = signedIn(server.url(), "bench", "a password for the bench");
            String all = technician.read("/api/v1/journal/jsonl");
            missing.removeIf(all::contains);
            boolean whole = technician.read("/api/v1/journal/check").contains("\"whole\":true");
            say(missing.isEmpty() && whole, KILLS + " kills under load: of " + done.size() + " notes that were answered with success "
                + missing.size() + " are missing; the journal is whole: " + whole);
        }
    }
}
