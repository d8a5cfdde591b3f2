package app.granary.server.agent;

import static org.junit.jupiter.api.Assertions.assertEquals;

import app.granary.agent.AgentCommand;
import app.granary.engine.media.Tools;
import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.springframework.test.context.TestPropertySource;

/**
 * An agent in a network namespace of its own: a process whose only way to the office is a cable that carries 1 Gbit/s, is pulled, and comes
 * back with another address. What arrived is asked of sha256sum, zstd, e2fsck and ntfsfix.
 */
@Tag("large")
@TestPropertySource(properties = "granary.listen=10.213.77.1:0")
class AgentNamespacesTest extends AgentOffice {
    private static final String SPACE = "granary-test";
    private static final String IN = "ip netns exec " + SPACE + " ";

    /** Before the office listens, since it does so on the cable's own address. */
    @BeforeAll
    static void cable() {
        String made = sh("test $(id -u) = 0 && command -v tc > /dev/null && ip netns add " + SPACE
            + " && ip link add granary-a type veth peer name granary-b && ip link set granary-b netns " + SPACE
            + " && ip addr add 10.213.77.1/24 dev granary-a && ip link set granary-a up && " + IN
            + "ip addr add 10.213.77.2/24 dev granary-b"
            + " && " + IN + "ip link set granary-b up && tc qdisc add dev granary-a root tbf rate 1gbit burst 1mb latency 50ms"
            + " && " + IN + "tc qdisc add dev granary-b root tbf rate 1gbit burst 1mb latency 50ms && echo made || true").strip();
        Assumptions.assumeTrue(made.endsWith("made"),
            "not run: two network namespaces need root, and ip and tc of iproute2 (" + made + ")");
    }

    @AfterAll
    static void cut() {
        sh("ip link del granary-a 2> /dev/null; ip netns del " + SPACE + " 2> /dev/null; true");
    }

    private static String sh(String script) {
        return Tools.run(Path.of("."), "exec 2>&1; " + script);
    }

    private Process joinFromThere(String name, String... more) throws Exception {
        List<String> line = new ArrayList<>(List.of("ip", "netns", "exec", SPACE, System.getProperty("java.home") + "/bin/java", "-cp",
            System.getProperty("java.class.path"), AgentCommand.class.getName()));
        line.addAll(joining(name, "10.213.77.1:" + port.port(), more));
        return new ProcessBuilder(line).redirectErrorStream(true).redirectOutput(home().resolve("agent.log").toFile()).start();
    }

    private String disk(String name) throws Exception {
        JsonNode computer = named(until("/api/v1/computers", all -> named(all.get("computers"), "SCREE").path("disks").size() == 2)
            .get("computers"), "SCREE");
        return StreamSupport.stream(computer.get("disks").spliterator(), false).filter(each -> each.get("name").asText().equals(name))
            .findFirst().orElseThrow().get("id").asText();
    }

    @Test
    void anImageCrossesACableThatIsPulledAndComesBackWithAnotherAddress() throws Exception {
        Path folder = Files.createDirectories(home().resolve("scree"));
        Tools.run(folder, "mkdir in; head -c 30M /dev/urandom > in/noise; truncate -s 110M disk.img bare.img; "
            + "printf 'label: gpt\\nsize=60M,type=L\\nsize=40M,type=EBD0A0A2-B9E5-4433-87C0-68B6B72699C7\\n' | sfdisk -q disk.img; "
            + "mkfs.ext4 -q -d in -E offset=1048576 disk.img 60M; truncate -s 40M ntfs; mkntfs -qF ntfs > /dev/null; "
            + "dd if=ntfs of=disk.img bs=1M seek=61 conv=notrunc status=none");
        Process agent = joinFromThere("SCREE", "--disk", folder.resolve("disk.img").toString(), "--disk", folder.resolve("bare.img")
            .toString());
        try {
            JsonNode run = order(disk("disk.img"), "granary-folder", "SCREE-1");
            pulled("10.213.77.7");
            JsonNode made = ended(run);
            assertEquals("done", made.get("state").asText(), made.toString());
            Tools.run(home().resolve("images/SCREE-1"), "sha256sum -c --quiet manifest-sha256.txt && zstd -tq data/*zst*");
            until("/api/v1/targets", all -> !named(all, "bare.img").isMissingNode());
            String restore = restore(made.get("imageId").asText(), "bare.img");
            pulled("10.213.77.9");
            JsonNode written = restored(restore);
            assertEquals("done", written.get("state").asText(), written.toString());
        } finally {
            agent.destroy();
            agent.waitFor();
        }
        Tools.run(folder, "dd if=bare.img of=ext4 bs=1M skip=1 count=60 status=none; e2fsck -fn ext4; debugfs -R 'dump noise out' ext4; "
            + "cmp out in/noise; dd if=bare.img of=back bs=1M skip=61 count=40 status=none; ntfsfix -n back");
    }

    /** Once bytes are on their way; for as long as it takes to notice. */
    private void pulled(String nextAddress) throws IOException, InterruptedException, Exception {
        until("/api/v1/runs/live", live -> !live.isEmpty());
        Thread.sleep(300);
        sh("ip link set granary-a down");
        Thread.sleep(3_000);
        sh(IN + "ip addr flush dev granary-b && " + IN + "ip addr add " + nextAddress + "/24 dev granary-b && ip link set granary-a up");
    }
}
