package app.granary.bench;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** A computer somewhere else: how soon it is here, and what its image costs by way of the office against one made on the spot. */
final class AgentBench {
    private static final ObjectMapper JSON = new ObjectMapper();
    private static final String DISK = "agent-disk.img";

    private final Measure measure;
    private final Path folder;

    AgentBench(Measure measure) throws IOException {
        this.measure = measure;
        this.folder = Files.createDirectories(measure.folder.resolve("agents"));
    }

    void run() throws IOException, InterruptedException {
        Tool.shell("'" + measure.granary() + "' agent-archive '" + folder + "/agent.tar.gz' && tar -C '" + folder + "' -xf '" + folder
            + "/agent.tar.gz'");
        measure.report("archive of the agent, in units of 60 MB", List.of(Files.size(folder.resolve("agent.tar.gz")) / 60e6), 1);
        List<Double> starts = new ArrayList<>();
        for (int i = 0; i < measure.rounds; i++) {
            starts.add(Tool.shell("'" + folder + "/granary-agent/granary-agent' --version") / 1.5);
        }
        measure.report("start of the agent, in units of 1.5 s", starts, 1);
        Path disk = folder.resolve(DISK);
        Disks.make(disk, 3L << 30, 1330L << 20, 768L << 20);
        Path home = Files.createDirectories(folder.resolve("home"));
        try (OfficeServer office = new OfficeServer(measure.granary(), home, "--listen", "127.0.0.1:8498")) {
            office.enter(true);
            joined(office, disk, home);
        }
        Tool.shell("rm -rf '" + folder + "'");
    }

    private void joined(OfficeServer office, Path disk, Path home) throws IOException, InterruptedException {
        String code = JSON.readTree(office.post("/api/v1/agents/codes", "", "application/json")).get("code").asText();
        long began = System.nanoTime();
        Process agent = new ProcessBuilder(folder + "/granary-agent/granary-agent", "join", "https://127.0.0.1:8498", "--code", code,
            "--name", "BENCH", "--only-these", "--disk", disk.toString()).redirectErrorStream(true)
            .redirectOutput(folder.resolve("agent.log").toFile()).start();
        try {
            String id = "";
            while (id.isEmpty()) {
                Thread.sleep(20);
                for (JsonNode each : JSON.readTree(office.get("/api/v1/computers")).get("computers")) {
                    for (JsonNode one : each.get("disks")) {
                        id = one.get("name").asText().equals(DISK) ? one.get("id").asText() : id;
                    }
                }
                if (!agent.isAlive()) {
                    throw new IOException("the agent ended, see " + folder.resolve("agent.log"));
                }
            }
            measure.report("from join to the computer on the page, in units of 3 s", List.of((System.nanoTime() - began) / 3e9), 1);
            captures(office, disk, id, home);
        } finally {
            agent.destroy();
            agent.waitFor();
        }
    }

    private void captures(OfficeServer office, Path disk, String id, Path home) throws IOException, InterruptedException {
        List<Double> ratios = new ArrayList<>();
        for (int i = 0; i <= measure.rounds; i++) {
            double local = measure.capture(disk);
            long began = System.nanoTime();
            JsonNode run = JSON.readTree(office.post("/api/v1/runs", "{\"diskId\":\"" + id + "\",\"destinationId\":\"granary-folder\","
                + "\"name\":\"BENCH-" + i + "\",\"codec\":\"zstd\",\"level\":3,\"splitBytes\":null,\"allBlocks\":false,\"keepSwap\":false,"
                + "\"without\":[],\"passphrase\":null}", "application/json"));
            JsonNode now = run;
            while (now.get("endedAt").isNull()) {
                Thread.sleep(50);
                now = JSON.readTree(office.get("/api/v1/runs/" + run.get("id").asText()));
            }
            if (!now.get("state").asText().equals("done")) {
                throw new IOException(now.toString());
            }
            if (i > 0) {
                ratios.add((System.nanoTime() - began) / 1e9 / local);
            }
            Tool.shell("rm -rf '" + home + "/images/BENCH-" + i + "'");
        }
        measure.report("capture at an agent to the office over loopback, time to the same in one process", ratios, 1.15);
    }
}
