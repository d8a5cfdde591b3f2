package app.granary.server.image;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.startsWith;
import static org.hamcrest.Matchers.hasSize;
import static org.hamcrest.Matchers.is;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.engine.media.Tools;
import app.granary.engine.host.ImageStore;
import app.granary.server.ServerTestBase;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.ResultActions;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

/** Images that lay on CAIRN before Granary came, taken on and proven over the wire; and a line from a paper log. */
@WithMockUser(username = "technician", roles = "TECHNICIAN")
class ElsewhereWireTest extends ServerTestBase {
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;
    @Autowired
    private ImageStore store;
    @TempDir
    Path folder;

    private JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    private ResultActions send(String path, Map<String, ?> body) throws Exception {
        MockHttpServletRequestBuilder request = post(path).with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content(json.writeValueAsString(body));
        return http.perform(request);
    }

    private String added(ResultActions answer) throws Exception {
        return json.readTree(answer.andExpect(status().isCreated()).andReturn().getResponse().getContentAsString()).get("id").asText();
    }

    /** A computer like GNOMON with one disk, which no night and no other test of the same office makes an image of. */
    private JsonNode computerOfItsOwn(String name) throws Exception {
        JsonNode gnomon = StreamSupport.stream(read("/api/v1/computers").get("computers").spliterator(), false)
            .filter(each -> each.get("name").asText().equals("GNOMON")).findFirst().orElseThrow();
        ObjectNode form = ((ObjectNode) read("/api/v1/computers/" + gnomon.get("id").asText()).get("form")).put("name", name);
        String computer = json.readTree(
            http.perform(post("/api/v1/computers").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content(form.toString()))
                .andExpect(status().isCreated()).andReturn()
                .getResponse().getContentAsString())
            .get("line").get("id").asText();
        return json.readTree(send("/api/v1/computers/" + computer + "/disks",
            Map.of("name", "", "model", "Pike CF", "serial", "CF-" + name, "sizeBytes", 500_170_752)).andExpect(status().isCreated())
            .andReturn().getResponse().getContentAsString()).get("line");
    }

    private JsonNode checked(String image, String level) throws Exception {
        String run = added(send("/api/v1/runs/checks", Map.of("imageId", image, "level", level)));
        for (int i = 0; i < 600 && !read("/api/v1/runs/" + run).get("state").asText().matches("done|failed|stopped"); i++) {
            Thread.sleep(100);
        }
        return read("/api/v1/runs/" + run);
    }

    @Test
    void oneThatLiesThereIsFoundTiedTakenOnAndProvenLikeAnyOther() throws Exception {
        JsonNode found = read("/api/v1/elsewhere?destinationId=cairn&folder=old-ledger").get("images");
        assertEquals(1, found.size());
        JsonNode ledger = found.get(0);
        assertEquals("ledger", ledger.get("diskId").asText());
        assertTrue(
            ledger.get("why").asText()
                .matches("Of LEDGER: (the partition table in it carries that disk's identity|its partitions lie where that disk's lie)."),
            ledger.get("why").asText());
        assertEquals(ledger.get("files").asInt(), ledger.get("digests").asInt());
        Map<String, String> taking = Map.of("destinationId", "cairn", "lookedIn", "old-ledger", "folder", "old-ledger", "name",
            "ledger-before-update.img.gz", "diskId", "ledger", "madeAt", "2026-03-01T12:00:00Z");
        String id = added(send("/api/v1/elsewhere", taking));
        send("/api/v1/elsewhere", taking).andExpect(status().isConflict())
            .andExpect(jsonPath("$.detail", containsString("on the shelf already")));
        http.perform(get("/api/v1/elsewhere?destinationId=cairn&folder=old-ledger")).andExpect(jsonPath("$.images[0].onShelf", is(true)));
        http.perform(get("/api/v1/images/" + id)).andExpect(jsonPath("$.image.origin", is("found")))
            .andExpect(jsonPath("$.image.proof", is(0))).andExpect(jsonPath("$.image.location", is("old-ledger")));
        JsonNode run = checked(id, "readable");
        assertEquals("done", run.get("state").asText(), run.get("outcome").asText());
        assertTrue(
            run.get("outcome").asText()
                .contains("all of it unpacks, and the partition table in it is the one it was added with. It unpacks to 500 GB"),
            run.get("outcome").asText());
        http.perform(get("/api/v1/images/" + id)).andExpect(jsonPath("$.image.proof", is(3)))
            .andExpect(jsonPath("$.image.rawBytes", is(500_107_862_016L)));
        http.perform(get("/api/v1/images/" + id + "/facts")).andExpect(jsonPath("$.parts", hasSize(ledger.get("files").asInt())));
        send("/api/v1/runs/checks", Map.of("imageId", id, "level", "rehearsed")).andExpect(status().isConflict())
            .andExpect(jsonPath("$.detail", containsString("Check it up to readable")));
        send("/api/v1/runs/copies", Map.of("imageId", id, "toDestinationId", "peg-1")).andExpect(status().isConflict())
            .andExpect(jsonPath("$.detail", containsString("made with other tools")));
    }

    /** A packed image of one partition became the card's image of the whole disk, and the newest proven of it. */
    @Test
    void anImageOfOnePartitionNeverStandsForItsDisk() throws Exception {
        Tools.run(folder, "truncate -s 8M part.img; mkfs.vfat part.img; gzip part.img");
        try (InputStream part = Files.newInputStream(folder.resolve("part.img.gz"))) {
            store.putFile("cairn", "old-part", "part.img.gz", part);
        }
        JsonNode computer = computerOfItsOwn("QUADRANT");
        String disk = computer.get("disks").get(0).get("id").asText();
        String id = added(send("/api/v1/elsewhere", Map.of("destinationId", "cairn", "lookedIn", "old-part", "folder", "old-part", "name",
            "part.img.gz", "diskId", disk, "madeAt", "2026-03-01T12:00:00Z")));
        // how long it is shows when it is unpacked; that there is no table is read, not made up
        assertTrue(checked(id, "readable").get("outcome").asText().contains("is readable: all of it unpacks. It unpacks to"));
        http.perform(get("/api/v1/images/" + id)).andExpect(jsonPath("$.image.partly", is("partly: without all but one partition")));
        JsonNode cover = StreamSupport.stream(read("/api/v1/today").get("cover").spliterator(), false)
            .filter(each -> each.get("diskId").asText().equals(disk)).findFirst().orElseThrow();
        assertEquals("partly", cover.get("state").asText(), cover.toString());
        assertTrue(cover.get("words").asText().contains("partly: without all but one partition"), cover.toString());
        String card = StreamSupport.stream(read("/api/v1/cards").spliterator(), false).map(JsonNode::toString)
            .filter(each -> each.contains("QUADRANT")).findFirst().orElseThrow();
        assertTrue(card.contains("There is no image of all of disk 1, only one that is partly"), card);
        assertTrue(read("/api/v1/retention").toString()
            .contains("the newest proven image of its disk that is partly: without all but one partition"));
        send("/api/v1/computers/" + computer.get("id").asText() + "/retirement", Map.of("retired", true));
    }

    /** A table and partitions in files of their own are one image of one disk, which lacks what nobody kept, and can be restored. */
    @Test
    void aSetMadeInAShellIsOneImageOfItsDisk() throws Exception {
        JsonNode found = read("/api/v1/elsewhere?destinationId=cairn&folder=old-contour-1").get("images");
        assertEquals(1, found.size(), found.toString());
        assertTrue(found.get(0).get("remark").asText().contains("not there: partition"), found.toString());
        assertEquals("contour-1", found.get(0).get("diskId").asText(), found.toString());
        String id = added(send("/api/v1/elsewhere", Map.of("destinationId", "cairn", "lookedIn", "old-contour-1", "folder", "old-contour-1",
            "name", found.get(0).get("name").asText(), "diskId", "contour-1", "madeAt", "2026-03-01T12:00:00Z")));
        assertTrue(checked(id, "readable").get("outcome").asText().contains("the next check compares with it"), id);
        assertTrue(checked(id, "readable").get("outcome").asText().contains("is readable"), id);
        http.perform(get("/api/v1/images/" + id)).andExpect(jsonPath("$.image.restorable", is(true)))
            .andExpect(jsonPath("$.image.partly", startsWith("partly: without ")));
        Map<String, Object> restore = new HashMap<>(Map.of("imageId", id, "targetId", "spare-1", "computer", "CONTOUR", "strategy", "keep",
            "stay", false, "othersStay", false, "zeroUnused", false, "acceptDamage", false, "skipCheck", false, "shrink", false));
        restore.put("confirmation", "");
        send("/api/v1/restore/layout", restore).andExpect(status().isOk())
            .andExpect(jsonPath("$.remarks[0]", containsString("not in the image")));
        JsonNode volumes = read("/api/v1/inside/" + id).get("volumes");
        JsonNode system = StreamSupport.stream(volumes.spliterator(), false).filter(each -> each.get("fileSystem").asText().equals("ntfs"))
            .findFirst().orElseThrow(() -> new AssertionError(volumes.toString()));
        assertTrue(read("/api/v1/inside/" + id + "/folder?place=" + system.get("number").asInt() + ":/").get("lines").size() > 0);
        send("/api/v1/served", Map.of("imageId", id, "as", "disk")).andExpect(status().is4xxClientError());
    }

    /** Nothing is claimed of a file nobody can look into, but that it is as it was. */
    @Test
    void aFileNobodyKnowsIsKeptAsFound() throws Exception {
        JsonNode computer = computerOfItsOwn("ASTROLABE");
        String disk = computer.get("disks").get(0).get("id").asText();
        store.putFile("cairn", "old-odd", "odd.bin", new ByteArrayInputStream("nothing that is known".repeat(99).getBytes()));
        Map<String, String> keeping = Map.of("destinationId", "cairn", "folder", "old-odd", "name", "odd.bin", "diskId", disk, "madeAt",
            "2025-03-01T12:00:00Z");
        String id = added(send("/api/v1/elsewhere/kept", keeping));
        send("/api/v1/elsewhere/kept", keeping).andExpect(status().isConflict());
        checked(id, "sound");
        assertTrue(checked(id, "readable").get("outcome").asText().contains("every byte of it matches its digest"),
            "and no more than that");
        http.perform(get("/api/v1/images/" + id)).andExpect(jsonPath("$.image.restorable", is(false)))
            .andExpect(jsonPath("$.image.partly", containsString("kept as found"))).andExpect(jsonPath("$.image.proven", is("sound")));
        JsonNode cover = StreamSupport.stream(read("/api/v1/today").get("cover").spliterator(), false)
            .filter(each -> each.get("diskId").asText().equals(disk)).findFirst().orElseThrow();
        assertTrue(cover.get("words").asText().contains("kept as found"), cover.toString());
        assertTrue(!cover.get("state").asText().equals("covered"), cover.toString());
        send("/api/v1/elsewhere/kept", Map.of("destinationId", "cairn", "folder", "old-odd", "name", "../x", "diskId", disk, "madeAt",
            "2025-03-01T12:00:00Z")).andExpect(status().is4xxClientError());
        send("/api/v1/computers/" + computer.get("id").asText() + "/retirement", Map.of("retired", true));
    }

    @Test
    void whatNoListSpeaksOfIsHeldAgainstWhatWasReadFirst() throws Exception {
        Map<String, String> taking = Map.of("destinationId", "cairn", "lookedIn", "", "folder", "old-plumb", "name", "plumb-spring.img.zst",
            "diskId", "plumb", "madeAt", "2026-01-02T12:00:00Z");
        String id = added(send("/api/v1/elsewhere", taking));
        assertTrue(checked(id, "sound").get("outcome").asText().contains("There was nothing to hold its bytes against"));
        http.perform(get("/api/v1/images/" + id)).andExpect(jsonPath("$.image.proven", is("complete")))
            .andExpect(jsonPath("$.checks[0].note", containsString("the next check compares")));
        assertTrue(checked(id, "sound").get("outcome").asText().contains("every byte of it matches its digest"));
        http.perform(get("/api/v1/images/" + id)).andExpect(jsonPath("$.image.proven", is("sound")));
    }

    @Test
    void aLineFromAPaperLogIsKeptAndNeverCountsAsAnImageOneHas() throws Exception {
        Map<String, Object> line = Map.of("diskId", "gnomon", "name", "Plotter card, before the new firmware", "where",
            "Envelope 7, two DVDs", "madeAt", "2024-05-06T12:00:00Z", "storedBytes", 0, "note", "");
        String id = added(send("/api/v1/elsewhere/paper", line));
        http.perform(get("/api/v1/images/" + id)).andExpect(jsonPath("$.image.origin", is("paper")))
            .andExpect(jsonPath("$.image.destination", is("Envelope 7, two DVDs"))).andExpect(jsonPath("$.image.stale", is(false)));
        send("/api/v1/elsewhere/paper", line).andExpect(status().isConflict());
        send("/api/v1/runs/checks", Map.of("imageId", id, "level", "complete")).andExpect(status().isConflict())
            .andExpect(jsonPath("$.detail", containsString("never seen")));
        http.perform(get("/api/v1/images/" + id + "/facts")).andExpect(status().isConflict());
        JsonNode cover = read("/api/v1/today").get("cover");
        cover.forEach(each -> assertTrue(!each.get("diskId").asText().equals("gnomon") || !each.get("newest").asText().startsWith("2024"),
            "paper covers nothing"));
    }

    @Test
    void whatCannotBeIsRefusedWithWhatToDo() throws Exception {
        http.perform(get("/api/v1/elsewhere?destinationId=cairn&folder=../peg-1")).andExpect(status().is4xxClientError())
            .andExpect(jsonPath("$.detail", containsString("no folder of that destination")));
        http.perform(get("/api/v1/elsewhere?destinationId=cairn&folder=nothing")).andExpect(status().is4xxClientError())
            .andExpect(jsonPath("$.detail", containsString("Check the path")));
        http.perform(get("/api/v1/elsewhere?destinationId=outpost&folder=")).andExpect(status().is4xxClientError())
            .andExpect(jsonPath("$.detail", containsString("not attached")));
        Map<String, String> taking = Map.of("destinationId", "cairn", "lookedIn", "old-ledger", "folder", "old-ledger", "name",
            "another.img", "diskId", "ledger", "madeAt", "2026-03-01T12:00:00Z");
        send("/api/v1/elsewhere", taking).andExpect(status().isConflict()).andExpect(jsonPath("$.detail", containsString("Look again")));
        Map<String, Object> future = Map.of("diskId", "gnomon", "name", "x", "where", "y", "madeAt", "2999-05-06T12:00:00Z", "storedBytes",
            0, "note", "");
        send("/api/v1/elsewhere/paper", future).andExpect(status().isUnprocessableEntity())
            .andExpect(jsonPath("$.detail", containsString("still to come")));
    }
}
