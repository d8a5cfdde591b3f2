package app.granary.bench;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Optional;
import java.util.Map;

/**
 * Eight computers that joined, whose images all come to the office at once, each onto a drive of its own: whether an office in 512 MiB
 * stands it, and how soon a page answers meanwhile. The computers' work runs as politely as can be, since in life it has processors of its
 * own.
 */
final class CrowdBench {
    private static final ObjectMapper JSON = new ObjectMapper();
    private static final int CROWD = 8;

    private final Measure measure;
    private final Path folder;
    private final Path agent;

    /** @param agent the start script of an unpacked archive */
    CrowdBench(Measure measure, Path folder, Path agent) throws IOException {
        this.measure = measure;
        this.folder = Files.createDirectories(folder);
        this.agent = agent;
    }

    void run() throws IOException, InterruptedException {
        if (Tool.status("test $(id -u) = 0 && losetup -f > /dev/null 2>&1") != 0) {
            System.out.println("eight agents at once: not measured, since eight drives are made of loop devices, which needs root");
            return;
        }
        List<Process> agents = new ArrayList<>();
        try {
            for (int i = 0; i < CROWD; i++) {
                Tool.shell("cd '" + folder + "' && truncate -s 2G drive-" + i + " && mkfs.ext4 -q -F -L CRATE-" + i + " drive-" + i
                    + " && mkdir -p " + mount(i) + " && mount -o loop drive-" + i + " " + mount(i) + " && head -c " + (150_000_128
                    + i * 512)
                    + " /dev/urandom > noise-" + i + ".img");
            }
            try (OfficeServer office = new OfficeServer(measure.granary(), Files.createDirectories(folder.resolve("home")), "--listen",
                "127.0.0.1:8498", "--granary.device-types=disk,loop")) {
                office.enter(true);
                for (int i = 0; i < CROWD; i++) {
                    String code = JSON.readTree(office.post("/api/v1/agents/codes", "", "application/json")).get("code").asText();
                    agents.add(new ProcessBuilder("nice", "-n", "19", agent.toString(), "join", "https://127.0.0.1:8498", "--code", code,
                        "--name", "CROWD-" + i, "--only-these", "--disk", folder.resolve("noise-" + i + ".img").toString())
                        .redirectErrorStream(true).redirectOutput(folder.resolve("agent-" + i + ".log").toFile()).start());
                }
                atOnce(office, order(office));
            }
        } finally {
            agents.forEach(Process::destroy);
            for (int i = 0; i < CROWD; i++) {
                Tool.status("umount " + mount(i) + "; rmdir " + mount(i));
            }
        }
    }

    private static String mount(int i) {
        return "/mnt/granary-bench-" + i;
    }

    /** The ids of eight runs. */
    private List<String> order(OfficeServer office) throws IOException, InterruptedException {
        Map<String, String> disks = new HashMap<>();
        for (int tries = 0; disks.size() < CROWD; tries++) {
            if (tries > 600) {
                throw new IOException("only " + disks.keySet() + " are here");
            }
            Thread.sleep(200);
            for (JsonNode computer : JSON.readTree(office.get("/api/v1/computers")).get("computers")) {
                for (JsonNode disk : computer.get("disks")) {
                    if (disk.get("name").asText().startsWith("noise-")) {
                        disks.put(disk.get("name").asText(), disk.get("id").asText());
                    }
                }
            }
        }
        List<String> out = new ArrayList<>();
        JsonNode drives = JSON.readTree(office.get("/api/v1/destinations"));
        for (int i = 0; i < CROWD; i++) {
            for (JsonNode drive : drives) {
                if (List.of("CRATE-" + i, "granary-bench-" + i).contains(drive.get("name").asText())) {
                    out.add(office.capture(disks.get("noise-" + i + ".img"), drive.get("id").asText(), "CROWD-" + i, true));
                }
            }
        }
        if (out.size() != CROWD) {
            throw new IOException("not all drives are here: " + drives);
        }
        return out;
    }

    private void atOnce(OfficeServer office, List<String> runs) throws IOException, InterruptedException {
        List<Double> answers = new ArrayList<>();
        int most = 0;
        List<String> open = new ArrayList<>(runs);
        while (!open.isEmpty()) {
            long began = System.nanoTime();
            office.get("/api/v1/today");
            answers.add((System.nanoTime() - began) / 1e6);
            most = Math.max(most, JSON.readTree(office.get("/api/v1/runs/live")).size());
            for (String each : List.copyOf(open)) {
                Optional<JsonNode> end = office.ended(each);
                if (end.isPresent()) {
                    open.remove(each);
                    JsonNode now = end.get();
                    if (!now.get("state").asText().equals("done")) {
                        throw new IOException(now.toString());
                    }
                }
            }
        }
        answers.sort(null);
        measure.report("eight agents send their images to an office in 512 MiB, share of them not at once",
            List.of(1 - most / (double) CROWD),
            0.25);
        measure.report("    Today meanwhile, p95, in units of 200 ms", List.of(answers.get(answers.size() * 95 / 100) / 200), 1);
    }
}
