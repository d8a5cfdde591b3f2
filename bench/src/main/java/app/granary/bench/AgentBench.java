package app.granary.bench;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** A computer somewhere else: how soon it is here, and what its image costs by way of the office against one made on the spot. */
final class AgentBench {
    private static final ObjectMapper JSON = new ObjectMapper();
    private static final String DISK = "agent-disk.img";
    /** Of 1 Gbit/s, what is left for TCP's own bytes in frames of 1500. */
    private static final double GIGABIT = 118.6e6;

    private final Measure measure;
    private final Path folder;
    private Process agent;

    AgentBench(Measure measure) throws IOException {
        this.measure = measure;
        this.folder = Files.createDirectories(measure.folder.resolve("agents"));
    }

    private void archive() throws IOException, InterruptedException {
        Tool.shell("'" + measure.granary() + "' agent-archive '" + folder + "/agent.tar.gz' && tar -C '" + folder + "' -xf '" + folder
            + "/agent.tar.gz'");
    }

    /** Eight of them at once. */
    void crowd() throws IOException, InterruptedException {
        archive();
        new CrowdBench(measure, folder.resolve("crowd"), folder.resolve("granary-agent/granary-agent")).run();
    }

    /** Cut and killed. */
    void cuts() throws IOException, InterruptedException {
        archive();
        new CutsBench(measure, folder.resolve("cuts"), folder.resolve("granary-agent/granary-agent")).run();
    }

    void run() throws IOException, InterruptedException {
        archive();
        measure.report("archive of the agent, in units of 60 MB", List.of(Files.size(folder.resolve("agent.tar.gz")) / 60e6), 1);
        List<Double> starts = new ArrayList<>();
        for (int i = 0; i < measure.rounds; i++) {
            starts.add(Tool.shell("'" + folder + "/granary-agent/granary-agent' --version") / 1.5);
        }
        measure.report("start of the agent, in units of 1.5 s", starts, 1);
        Path disk = folder.resolve(DISK);
        Disks.make(disk, 3L << 30, 1330L << 20, 768L << 20);
        for (Cores cores : Cores.values()) {
            overLoopback(disk, cores);
            overAGigabit(disk, cores);
        }
        crowd();
        cuts();
        Tool.shell("rm -rf '" + folder + "'");
    }

    /** Which of this machine's cores the two computers have. */
    private enum Cores {
        /** All of them, each. */
        SHARED(List.of(), List.of(), ""),
        /** One each, as two computers have cores of their own; what is done in one process for comparison has one too. */
        OWN(List.of("taskset", "-c", "0"), List.of("taskset", "-c", "1"), ", a core for each computer");

        private final List<String> agent;
        private final List<String> office;
        private final String words;

        Cores(List<String> agent, List<String> office, String words) {
            this.agent = agent;
            this.office = office;
            this.words = words;
        }
    }

    private void overLoopback(Path disk, Cores cores) throws IOException, InterruptedException {
        Path home = Files.createDirectories(folder.resolve("home" + cores));
        measure.within(cores.agent);
        try (OfficeServer office = new OfficeServer(cores.office, measure.granary(), home, "--listen", "127.0.0.1:8498")) {
            office.enter(true);
            double took = joined(office, disk, "127.0.0.1", cores.agent);
            if (cores == Cores.SHARED) {
                measure.report("from join to the computer on the page, in units of 3 s", List.of(took / 3), 1);
            }
            captures(office, disk, home, cores, false);
        } finally {
            end();
        }
    }

    /** Of 1 Gbit/s in both directions, between two network namespaces. */
    private void overAGigabit(Path disk, Cores cores) throws IOException, InterruptedException {
        String in = "ip netns exec granary-bench ";
        if (Tool.status("test $(id -u) = 0 && ip netns add granary-bench && ip link add gb-a type veth peer name gb-b "
            + "&& ip link set gb-b netns granary-bench && ip addr add 10.213.78.1/24 dev gb-a && ip link set gb-a up && " + in
            + "ip addr add 10.213.78.2/24 dev gb-b && "
            + in + "ip link set gb-b up && tc qdisc add dev gb-a root tbf rate 1gbit burst 1mb latency 50ms && " + in
            + "tc qdisc add dev gb-b root tbf rate 1gbit burst 1mb latency 50ms") != 0) {
            System.out.println("over 1 Gbit/s: not measured, since two network namespaces need root, and ip and tc");
            return;
        }
        Path home = Files.createDirectories(folder.resolve("gigabit" + cores));
        List<String> there = new ArrayList<>(cores.agent);
        there.addAll(List.of("ip", "netns", "exec", "granary-bench"));
        measure.within(cores.agent);
        try (OfficeServer office = new OfficeServer(cores.office, measure.granary(), home, "--listen", "10.213.78.1:8498")) {
            office.enter(true);
            joined(office, disk, "10.213.78.1", there);
            captures(office, disk, home, cores, true);
        } finally {
            end();
            Tool.status("ip link del gb-a; ip netns del granary-bench");
        }
    }

    private void end() throws InterruptedException {
        measure.within(List.of());
        if (agent != null) {
            agent.destroy();
            agent.waitFor();
        }
    }

    /** @return seconds until it stood on the page */
    private double joined(OfficeServer office, Path disk, String address, List<String> within)
        throws IOException, InterruptedException {
        String code = JSON.readTree(office.post("/api/v1/agents/codes", "", "application/json")).get("code").asText();
        List<String> line = new ArrayList<>(within);
        line.addAll(List.of(folder + "/granary-agent/granary-agent", "join", "https://" + address + ":8498", "--code", code, "--name",
            "BENCH", "--only-these", "--disk", disk.toString()));
        long began = System.nanoTime();
        agent = new ProcessBuilder(line).redirectErrorStream(true).redirectOutput(folder.resolve("agent.log").toFile()).start();
        while (diskId(office).isEmpty()) {
            Thread.sleep(20);
            if (!agent.isAlive()) {
                throw new IOException("the agent ended, see " + folder.resolve("agent.log"));
            }
        }
        double seconds = (System.nanoTime() - began) / 1e9;
        Thread.sleep(8_000); // it measures the network first
        return seconds;
    }

    private static String diskId(OfficeServer office) throws IOException, InterruptedException {
        for (JsonNode each : JSON.readTree(office.get("/api/v1/computers")).get("computers")) {
            for (JsonNode one : each.get("disks")) {
                if (one.get("name").asText().equals(DISK)) {
                    return one.get("id").asText();
                }
            }
        }
        return "";
    }

    /** Seconds of the whole disk, compressed as it is read, through the same cable to somebody who throws it away. */
    private static double wholeDisk(Path disk, Cores cores) throws IOException, InterruptedException {
        try (ServerSocket door = new ServerSocket(0, 1, InetAddress.getByName("10.213.78.1"))) {
            Thread taking = new Thread(() -> {
                try (Socket in = door.accept()) {
                    in.getInputStream().transferTo(OutputStream.nullOutputStream());
                } catch (IOException cut) {
                    // the sender's exit tells
                }
            });
            taking.start();
            double out = Tool.shell(String.join(" ", cores.agent) + " ip netns exec granary-bench bash -c 'zstd -q -T2 -3 -c \"" + disk
                + "\" > /dev/tcp/10.213.78.1/" + door.getLocalPort() + "'");
            taking.join();
            return out;
        }
    }

    /** @param shaped whether it goes over a cable of 1 Gbit/s, which carries 119 MB/s of what TCP is given */
    private void captures(OfficeServer office, Path disk, Path home, Cores cores, boolean shaped) throws IOException, InterruptedException {
        String id = diskId(office);
        List<Double> ratios = new ArrayList<>();
        List<Double> whole = new ArrayList<>();
        for (int i = 0; i <= measure.rounds; i++) {
            Processor alone = Processor.now();
            double local = measure.capture(disk);
            String here = String.format(Locale.ROOT, "in one process %.1f s: %.1f s of processor, %s", local,
                Processor.now().endedSince(alone), Processor.now().since(alone));
            double stored = measure.number("storedBytes");
            double piped = shaped ? wholeDisk(disk, cores) : 0;
            Thread.sleep(3_000); // an agent looks every two seconds who uses its disks, and the other capture just did
            office.get("/api/v1/estimates?codec=zstd&level=3&diskId=" + id); // as a page does before an image can be asked for
            System.out.println("    " + here);
            double seconds = overTheLine(office, id, i);
            if (i > 0) {
                ratios.add(seconds / (shaped ? Math.max(local, stored / GIGABIT) : local));
                whole.add(shaped ? seconds / piped : 0);
            }
            Tool.shell("rm -rf '" + home + "/images/BENCH-" + i + "'");
        }
        if (shaped) {
            measure.report("capture over 1 Gbit/s, time to the longer of the same here and its bytes on the cable" + cores.words, ratios,
                1.1);
            measure.report("    the same, time to the whole disk through zstd -T2 and the cable" + cores.words, whole, 0.75);
        } else {
            measure.report("capture at an agent to the office over loopback, time to the same in one process" + cores.words, ratios, 1.15);
        }
    }

    /** @return seconds of an image by way of the office; prints who used the processor meanwhile */
    private double overTheLine(OfficeServer office, String id, int round) throws IOException, InterruptedException {
        Processor before = Processor.now();
        long atOffice = Processor.of(office.pid());
        long atAgent = Processor.of(agent.pid());
        long began = System.nanoTime();
        String run = office.capture(id, "granary-folder", "BENCH-" + round, false);
        Optional<JsonNode> end = office.ended(run);
        while (end.isEmpty()) {
            Thread.sleep(100);
            end = office.ended(run);
        }
        JsonNode now = end.get();
        if (!now.get("state").asText().equals("done")) {
            throw new IOException(now.toString());
        }
        double seconds = (System.nanoTime() - began) / 1e9;
        System.out.printf(Locale.ROOT, "    over the line %.1f s: agent %.1f s and office %.1f s of processor, %s%n", seconds,
            Processor.seconds(Processor.of(agent.pid()) - atAgent), Processor.seconds(Processor.of(office.pid()) - atOffice),
            Processor.now().since(before));
        return seconds;
    }
}
