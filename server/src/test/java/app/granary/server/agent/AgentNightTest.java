package app.granary.server.agent;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;

import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Files;
import java.nio.file.Path;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.inventory.ComputerFacts;
import app.granary.core.preflight.Power;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import app.granary.engine.line.HostState;
import app.granary.engine.line.Message;
import java.io.IOException;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;
import java.util.List;
import java.util.Map;
import java.util.stream.StreamSupport;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** What happens by itself when a computer joins, and where its images are offered to go. */
@Tag("large")
class AgentNightTest extends AgentOffice {
    @Autowired
    private Agents joined;
    @Autowired
    private AgentsHere here;

    private Path folder(String name) throws Exception {
        Path folder = Files.createDirectories(home().resolve(name));
        Files.createDirectories(folder.resolve(name + "-DRIVE"));
        Files.move(Medium.GPT_EXT4_AND_FAT.make(folder), folder.resolve(name + ".img"));
        Tools.run(folder, "sgdisk -G " + name + ".img"); // no two disks are one
        return folder;
    }

    private void join(Path folder) throws Exception {
        String name = folder.getFileName().toString();
        join(name, "--disk", folder.resolve(name + ".img").toString(), "--drive", folder.resolve(name + "-DRIVE").toString());
    }

    private JsonNode plan(String computer, String disk) throws Exception {
        ObjectNode plan = json.createObjectNode().put("name", computer + ", nightly").put("codec", "zstd").put("level", 3)
            .put("allBlocks", false).put("keepSwap", false).put("encrypted", false).put("inTurn", false).put("booted", true)
            .put("naming", "{computer}_{date}").put("recheckDays", 90).put("afterwards", "nothing").put("note", "");
        plan.putNull("splitBytes");
        plan.putObject("source").put("diskId", disk).put("computer", computer).put("disk", "disk").put("model", "").put("serial", "")
            .put("sizeBytes", 0).putArray("without");
        plan.putArray("destinations").addObject().put("id", "granary-folder").put("name", "Granary's folder");
        plan.putObject("rhythm").put("kind", "by-hand").put("every", 1).put("day", 1).putArray("days");
        // a night begins when the office opens: from then to then it is all of it, whenever this runs
        String opens = read("/api/v1/office/days").get("form").get("opens").asText();
        plan.putObject("window").put("from", opens).put("to", opens);
        plan.putObject("keep").put("last", 3).put("daily", 0).put("weekly", 0).put("monthly", 0).put("yearly", 0).put("minimumDays", 0)
            .put("maximumDays", 0).put("leastProven", 1).put("asOffice", true).put("automatic", false);
        plan.putArray("mailTo");
        plan.putArray("checklist");
        return send(post("/api/v1/plans"), plan);
    }

    /** The computer is started when it is convenient; nobody has to be at the office's screen then. */
    @Test
    void aPlanOfTonightStartsWhenItsComputerIsHere() throws Exception {
        Path scarp = folder("SCARP");
        join(scarp);
        String disk = diskOf("SCARP");
        sendAway();
        until("/api/v1/computers", all -> !named(all.get("computers"), "SCARP").get("disks").get(0).get("attached").asBoolean());
        String planId = plan("SCARP", disk).get("id").asText();
        String tonight = read("/api/v1/night").get("date").asText();
        ObjectNode wish = json.createObjectNode().put("leftOut", false).put("askedFor", true);
        wish.putNull("start");
        wish.putNull("driveId");
        send(put("/api/v1/night/" + tonight + "/plans/" + planId), wish);
        assertTrue(read("/api/v1/runs").toString().indexOf("SCARP_") < 0);
        join(scarp);
        JsonNode runs = until("/api/v1/runs", all -> all.toString().contains("Image SCARP_"));
        assertEquals(1, runs.findValuesAsText("imageName").stream().filter(each -> each.startsWith("SCARP_")).count(), runs.toString());
        Tools.run(home().resolve("images"), "cd SCARP_* && sha256sum -c --quiet manifest-sha256.txt");
    }

    @Test
    void theWayIsToldAndTheNetworkTakesItsTime() throws Exception {
        join(folder("COL"));
        join(folder("TARN"));
        String disk = diskOf("COL");
        until("/api/v1/destinations", all -> !named(all, "TARN-DRIVE").isMissingNode() && !named(all, "COL-DRIVE").isMissingNode());
        JsonNode agents = until("/api/v1/agents", all -> named(all, "COL").path("upBytes").asLong() > 0);
        assertTrue(named(agents, "COL").get("downBytes").asLong() > 0);
        JsonNode weighed = read("/api/v1/estimates?diskId=" + disk).get("destinations");
        JsonNode others = named(weighed, "TARN-DRIVE");
        assertEquals("", others.get("refusedBy").asText(), others.toString());
        assertTrue(others.get("route").asText().startsWith("The bytes cross the network from COL to TARN, by way of Granary's own machine"),
            others.toString());
        assertEquals("Both are in COL: nothing crosses the network but words.", named(weighed, "COL-DRIVE").get("route").asText());
        JsonNode office = named(weighed, "Granary's folder");
        assertTrue(office.get("route").asText().startsWith("The bytes cross the network from COL to Granary's own machine, measured at"),
            office.toString());
        assertTrue(office.get("time").toString().contains("\"send\""), office.toString());
    }

    /** From a disk in one computer to a drive in another, by way of the office, and back onto a disk that was confirmed where it is. */
    @Test
    void whatGoesFromOneComputerToAnotherAndIsConfirmedThere() throws Exception {
        Path corrie = folder("CORRIE");
        Tools.run(corrie, "truncate -s 200M spare.img");
        join("CORRIE", "--disk", corrie.resolve("CORRIE.img").toString(), "--disk", corrie.resolve("spare.img").toString());
        Path ghyll = folder("GHYLL");
        join(ghyll);
        String drive = named(until("/api/v1/destinations", all -> !named(all, "GHYLL-DRIVE").isMissingNode()), "GHYLL-DRIVE").get("id")
            .asText();
        until("/api/v1/targets", all -> !named(all, "spare.img").isMissingNode());
        String disk = StreamSupport.stream(named(read("/api/v1/computers").get("computers"), "CORRIE").get("disks").spliterator(), false)
            .filter(each -> each.get("name").asText().equals("CORRIE.img")).findFirst().orElseThrow().get("id").asText();
        JsonNode made = capture(disk, drive, "CORRIE-far");
        Tools.run(ghyll.resolve("GHYLL-DRIVE/granary-images/CORRIE-far"),
            "sha256sum -c --quiet manifest-sha256.txt && zstd -tq data/*zst*");

        String target = named(read("/api/v1/targets"), "spare.img").get("id").asText();
        Agent agent = here.all().stream().filter(each -> each.name().equals("CORRIE")).findFirst().orElseThrow();
        Agent other = here.all().stream().filter(each -> each.name().equals("GHYLL")).findFirst().orElseThrow();
        joined.typed(other, new Message.Typed(target, ".img"));
        assertEquals("", read("/api/v1/targets/" + target).get("typedAt").asText(), "nobody speaks for a disk of another computer");
        ObjectNode order = json.createObjectNode().put("imageId", made.get("imageId").asText()).put("targetId", target).put("computer", "")
            .put("strategy", "keep").put("confirmation", "");
        List.of("stay", "othersStay", "zeroUnused", "acceptDamage", "skipCheck", "shrink").forEach(no -> order.put(no, false));
        assertEquals(409, status(order));
        joined.typed(agent, new Message.Typed(target, "none"));
        assertEquals(409, status(order), "what was typed there has to be right too");
        joined.typed(agent, new Message.Typed(target, ".img"));
        assertEquals("CORRIE", read("/api/v1/targets/" + target).get("typedAt").asText());
        JsonNode done = restored(send(post("/api/v1/restore"), order).get("id").asText());
        assertEquals("done", done.get("state").asText(), done.toString());
        assertEquals("", read("/api/v1/targets/" + target).get("typedAt").asText(), "it is good once");
        assertEquals(Tools.run(corrie, "sfdisk -d CORRIE.img | sed 's/.*img//' | grep start"),
            Tools.run(corrie, "sfdisk -d spare.img | sed 's/.*img//' | grep start"));
    }

    private int status(JsonNode order) throws Exception {
        return http.perform(post("/api/v1/restore").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content(order.toString())).andReturn().getResponse().getStatus();
    }

    /** It was started again and joined by another code: the one that is silent was it, and nobody else. */
    @Test
    void aComputerThatJoinsAnewTakesTheOldOnesPlace() throws Exception {
        Agents.Joined before = told("FELL", "disk-a");
        Agents.Joined another = told("FELL", "disk-b");
        before.agent().host().broken();
        another.agent().host().broken();
        Agents.Joined now = told("FELL", "disk-a");
        assertEquals(java.util.Set.of(another.agent().id(), now.agent().id()),
            here.all().stream().map(Agent::id).collect(java.util.stream.Collectors.toSet()));
        joined.sendAway(another.agent().id(), "technician");
        joined.sendAway(now.agent().id(), "technician");
    }

    private Agents.Joined told(String name, String disk) throws IOException {
        Agents.Joined one = joined.join(name, "technician");
        HostDisk has = HostDisk.lasting(disk, disk, new DiskIdentity("model", disk, 1), "sata", 1);
        one.agent().host().over(message -> { });
        one.agent().host().hear(new Message.Here(new HostState(new HostComputer("x", name, "", "", ComputerFacts.UNKNOWN, List.of(has)),
            List.of(), Map.of(), List.of(), List.of(), Power.MAINS)));
        joined.told(one.agent());
        return one;
    }

    /** Pages over TLS, where they were asked for: by the same certificate, under Granary's own names only, and without what agents ask. */
    @Test
    void screensAreAnsweredOverTlsWhereThatWasAskedFor() throws Exception {
        int pages = port.screensPort().getAsInt();
        assertEquals("HTTP/1.1 200", status(pages, "/", "127.0.0.1"));
        assertEquals("HTTP/1.1 404", status(pages, "/agents/agent.tar.gz", "127.0.0.1"));
        assertEquals("HTTP/1.1 403", status(pages, "/", "elsewhere"));
        assertEquals("HTTP/1.1 404", status(port.port(), "/", "127.0.0.1"));
    }

    private String status(int at, String path, String host) throws Exception {
        TrustManagerFactory own = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
        own.init(OfficeCertificate.of(settings).trusted());
        SSLContext tls = SSLContext.getInstance("TLSv1.3");
        tls.init(null, own.getTrustManagers(), null);
        try (Socket socket = tls.getSocketFactory().createSocket("127.0.0.1", at)) {
            socket.getOutputStream().write(("GET " + path + " HTTP/1.1\r\nHost: " + host + "\r\nConnection: close\r\n\r\n")
                .getBytes(StandardCharsets.US_ASCII));
            return new String(socket.getInputStream().readNBytes(12), StandardCharsets.US_ASCII);
        }
    }
}
