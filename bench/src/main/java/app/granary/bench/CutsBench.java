package app.granary.bench;

import app.granary.engine.source.Folders;
import app.granary.standins.Cable;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Stream;

/**
 * A computer's disk, to the office by a cable that is cut twenty times, and to the office or to its own drive while either side is killed
 * twenty times, at random moments: how many of the forty come to no end that can be told of. Each either is an image by coreutils' digests,
 * or is unfinished and is carried on or discarded, and nothing else of it lies there.
 */
final class CutsBench {
    private static final ObjectMapper JSON = new ObjectMapper();
    private static final int TIMES = 20;
    private static final int PORT = 8498;
    private static final long WIRE = 60_000_000;
    private static final long DISK = 120_000_000;

    private final Measure measure;
    private final Path folder;
    private final Path home;
    private final Path agentScript;
    private final Random lots = new Random(19);
    private OfficeServer office;
    private Process agent;
    private String disk = "";

    /** @param agent the start script of an unpacked archive */
    CutsBench(Measure measure, Path folder, Path agent) throws IOException {
        this.measure = measure;
        this.folder = Files.createDirectories(folder);
        this.home = Files.createDirectories(folder.resolve("home"));
        this.agentScript = agent;
    }

    void run() throws IOException, InterruptedException {
        Tool.shell("cd '" + folder + "' && mkdir -p TRIPOD-DRIVE && head -c " + DISK + " /dev/urandom > tripod.img");
        List<String> names = new ArrayList<>();
        try (Cable cable = new Cable(PORT, WIRE)) {
            start(true);
            join(cable);
            int lost = 0;
            for (int i = 0; i < TIMES; i++) {
                names.add("CUT-" + i);
                String run = order("CUT-" + i, home());
                Thread.sleep(200 + lots.nextInt(3_000));
                cable.pull();
                Thread.sleep(200 + lots.nextInt(3_000));
                cable.plug();
                lost += ended(run).equals("done") && sound(home(), "CUT-" + i) ? 0 : 1;
            }
            measure.report("a cut at 90 %, bytes sent again, in units of 64 MiB", List.of(sentAgain(cable, names, false)), 1);
            measure.report("    the computer's agent killed at 90 %, and carried on", List.of(sentAgain(cable, names, true)), 1);
            measure.report("20 cuts of the cable, share that did not come to an image", List.of(lost / (double) TIMES), 0);
            lost = 0;
            for (int i = 0; i < TIMES; i++) {
                names.add("KILL-" + i);
                lost += killed(cable, "KILL-" + i, i) ? 0 : 1;
            }
            measure.report("20 kills of either side, share that came to no image and no unfinished one", List.of(lost / (double) TIMES), 0);
        } finally {
            end();
        }
        int untold = 0;
        Tool.shell("'" + measure.granary() + "' check-journal '" + home + "' > '" + folder + "/journal.txt'");
        for (String name : names) {
            untold += journal.contains(name) ? 0 : 1;
        }
        measure.report("    journal lines lost of " + names.size() + " images that were ordered", List.of((double) untold), 0);
    }

    /** What crossed the cable over the bytes of the image: what was sent twice, and what else computer and office say. */
    private double sentAgain(Cable cable, List<String> names, boolean kill) throws IOException, InterruptedException {
        String name = kill ? "NINETY-KILLED" : "NINETY-CUT";
        names.add(name);
        long before = cable.carriedToFar();
        String run = order(name, home());
        while (cable.carriedToFar() - before < DISK * 9 / 10) {
            Thread.sleep(10);
        }
        if (kill) {
            long killed = cable.carriedToFar();
            killAgent(cable);
            measured();
            before += cable.carriedToFar() - killed; // by which it joined and measured the network
            ended(run);
            here();
            run = JSON.readTree(office.post("/api/v1/unfinished/granary-folder/" + name + "/carry-on", "{\"passphrase\":null}",
                "application/json")).get("id").asText();
        } else {
            cable.pull();
            Thread.sleep(2_000);
            cable.plug();
        }
        if (!ended(run).equals("done") || !sound(home(), name)) {
            throw new IOException(name + " did not come to an image: " + office.get("/api/v1/runs/" + run));
        }
        return (cable.carriedToFar() - before - Folders.bytes(home().resolve(name))) / (double) (64 << 20);
    }

    private void measured() throws IOException, InterruptedException {
        for (int i = 0; i < 300; i++) {
            for (JsonNode each : JSON.readTree(office.get("/api/v1/agents"))) {
                if (!each.get("upBytes").isNull()) {
                    return;
                }
            }
            Thread.sleep(100);
        }
    }

    private void killAgent(Cable cable) throws IOException, InterruptedException {
        agent.destroyForcibly().waitFor();
        for (JsonNode each : JSON.readTree(office.get("/api/v1/agents"))) {
            office.send("DELETE", "/api/v1/agents/" + each.get("id").asText(), "", "application/json");
        }
        join(cable);
    }

    private String journal = "";

    private Path home() {
        return home.resolve("images");
    }

    private Path own() {
        return folder.resolve("TRIPOD-DRIVE/granary-images");
    }

    private void start(boolean first) throws IOException, InterruptedException {
        office = new OfficeServer(measure.granary(), home, "--listen", "127.0.0.1:" + PORT, "--granary.device-types=none");
        office.enter(first);
    }

    private void join(Cable cable) throws IOException, InterruptedException {
        String code = JSON.readTree(office.post("/api/v1/agents/codes", "", "application/json")).get("code").asText();
        agent = new ProcessBuilder(agentScript.toString(), "join", "https://127.0.0.1:" + cable.port(), "--code", code, "--name", "TRIPOD",
            "--only-these", "--disk", folder.resolve("tripod.img").toString(), "--drive", folder.resolve("TRIPOD-DRIVE").toString())
            .redirectErrorStream(true).redirectOutput(folder.resolve("agent.log").toFile()).start();
        here();
    }

    /** Waits until its disk and its drive are at hand. */
    private void here() throws IOException, InterruptedException {
        for (int i = 0; i < 900; i++) {
            for (JsonNode computer : JSON.readTree(office.get("/api/v1/computers")).get("computers")) {
                for (JsonNode each : computer.get("disks")) {
                    if (each.get("name").asText().equals("tripod.img") && each.path("attached").asBoolean() && !driveId().isEmpty()) {
                        disk = each.get("id").asText();
                        return;
                    }
                }
            }
            Thread.sleep(100);
        }
        throw new IOException("the computer is not here, see " + folder.resolve("agent.log"));
    }

    private String driveId() throws IOException, InterruptedException {
        for (JsonNode each : JSON.readTree(office.get("/api/v1/destinations"))) {
            if (each.get("name").asText().equals("TRIPOD-DRIVE") && each.get("attached").asBoolean()) {
                return each.get("id").asText();
            }
        }
        return "";
    }

    private String order(String name, Path to) throws IOException, InterruptedException {
        here();
        String destination = to.equals(home()) ? "granary-folder" : driveId();
        return office.capture(disk, destination, name, true);
    }

    private String ended(String run) throws IOException, InterruptedException {
        for (int i = 0; i < 2_400; i++) {
            Optional<JsonNode> end = office.ended(run);
            if (end.isPresent()) {
                return end.get().get("state").asText();
            }
            Thread.sleep(50);
        }
        return "never";
    }

    private static boolean sound(Path images, String name) throws IOException, InterruptedException {
        return Tool.status("cd '" + images.resolve(name) + "' && sha256sum -c --quiet manifest-sha256.txt && zstd -tq data/*zst*") == 0;
    }

    /** The office is killed when i is even, the computer's agent otherwise; each to the office and to its own drive. */
    private boolean killed(Cable cable, String name, int i) throws IOException, InterruptedException {
        Path to = i / 2 % 2 == 0 ? home() : own();
        String run = order(name, to);
        Thread.sleep(200 + lots.nextInt(3_500));
        if (i % 2 == 0) {
            office.kill();
            start(false);
        } else {
            killAgent(cable);
        }
        String state = ended(run);
        here();
        boolean told = state.equals("done") ? sound(to, name) : leftOver(to, name, i);
        if (!told) {
            System.out.println("    " + name + " ended as " + office.get("/api/v1/runs/" + run) + "; there lies:");
            try (Stream<Path> there = Files.walk(to)) {
                there.filter(each -> each.toString().contains(name)).forEach(each -> System.out.println("      " + each));
            }
            System.out.println("    unfinished: " + office.get("/api/v1/unfinished"));
        }
        return told;
    }

    /** Whatever lies there is unfinished, and is carried on or discarded. */
    private boolean leftOver(Path to, String name, int i) throws IOException, InterruptedException {
        for (JsonNode each : JSON.readTree(office.get("/api/v1/unfinished"))) {
            if (!each.get("name").asText().equals(name)) {
                continue;
            }
            String path = "/api/v1/unfinished/" + each.get("destinationId").asText() + "/" + name;
            if (each.get("carryable").asBoolean() && i % 4 < 2) {
                String again = JSON.readTree(office.post(path + "/carry-on", "{\"passphrase\":null}", "application/json")).get("id")
                    .asText();
                return ended(again).equals("done") && sound(to, name);
            }
            office.send("DELETE", path, "", "application/json");
        }
        return Tool.status("! ls -d '" + to + "/" + name + "'* 2>/dev/null | grep -q .") == 0;
    }

    private void end() throws IOException, InterruptedException {
        if (office != null) {
            journal = office.get("/api/v1/journal/csv");
            office.close();
        }
        if (agent != null) {
            agent.destroy();
            agent.waitFor();
        }
    }
}
