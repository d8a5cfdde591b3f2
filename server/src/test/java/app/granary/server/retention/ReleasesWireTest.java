package app.granary.server.retention;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.endsWith;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.engine.host.ImageStore;
import app.granary.server.ServerTestBase;
import app.granary.server.image.RoomMaker;
import app.granary.server.home.GranarySettings;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.ResultActions;

/** Releasing over the wire, on real bags of the simulated office. */
@WithMockUser(username = "technician", roles = "TECHNICIAN")
class ReleasesWireTest extends ServerTestBase {
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;
    @Autowired
    private Releases releases;
    @Autowired
    private RoomMaker roomMaker;
    @Autowired
    private GranarySettings settings;
    @Autowired
    private ImageStore store;
    @Autowired
    private app.granary.standins.Switchboard switchboard;

    private JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    private ResultActions send(String path, String body) throws Exception {
        return http.perform(post("/api/v1/" + path).with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content(body));
    }

    private String capture(String name) throws Exception {
        String run = json.readTree(send("runs", "{\"diskId\":\"gnomon\",\"destinationId\":\"peg-1\",\"name\":\"" + name
            + "\",\"codec\":\"zstd\",\"level\":1,\"splitBytes\":null,\"allBlocks\":false,\"keepSwap\":false,\"without\":[],"
            + "\"passphrase\":null}")
            .andExpect(status().isCreated()).andReturn().getResponse()
            .getContentAsString()).get("id").asText();
        for (int i = 0; i < 600; i++) {
            JsonNode now = read("/api/v1/runs/" + run);
            if (!now.get("endedAt").isNull()) {
                assertEquals("done", now.get("state").asText(), now.toString());
                return now.get("imageId").asText();
            }
            Thread.sleep(100);
        }
        throw new AssertionError("the run did not end");
    }

    private JsonNode verdict(String image) throws Exception {
        return read("/api/v1/retention/images/" + image);
    }

    private JsonNode released(String image) throws Exception {
        return StreamSupport.stream(read("/api/v1/retention").get("released").spliterator(), false)
            .filter(each -> each.get("imageId").asText().equals(image)).findFirst().orElseThrow();
    }

    private Path onDrive(String name) {
        return settings.home().resolve("office/drives/peg-1").resolve(name);
    }

    private void unplug(boolean off) throws Exception {
        switchboard.turn("unplug:peg-1", off);
    }

    @AfterEach
    void plugIn() throws Exception {
        unplug(false);
    }

    /** One copy of an image could be left out of a release, against the rule that copies stay or go together. */
    @Test
    void copiesOfOneImageAreReleasedTogetherOrNotAtAll() throws Exception {
        String old = capture("GNOMON-twice");
        String run = json.readTree(send("runs/copies", "{\"imageId\":\"" + old + "\",\"toDestinationId\":\"cairn\"}")
            .andExpect(status().isCreated()).andReturn().getResponse().getContentAsString()).get("id").asText();
        for (int i = 0; i < 600 && read("/api/v1/runs/" + run).get("endedAt").isNull(); i++) {
            Thread.sleep(100);
        }
        String copy = read("/api/v1/images/" + old).get("copies").get(0).get("id").asText();
        capture("GNOMON-after");
        send("retention/releases", "{\"images\":[\"" + copy + "\"]}").andExpect(status().isConflict());
        assertTrue(Files.exists(onDrive("GNOMON-twice")), "a copy is no image, and is not released alone");
        send("retention/releases", "{\"images\":[\"" + old + "\"]}").andExpect(status().isOk());
        assertEquals("trash", released(old).get("state").asText());
        assertEquals("trash", released(copy).get("state").asText());
    }

    @Test
    void anImageGoesThroughTheTrashAndBackAndInTheEndForGood() throws Exception {
        String old = capture("GNOMON-old");
        String newer = capture("GNOMON-newer");
        assertFalse(verdict(old).get("kept").asBoolean(), verdict(old).toString());
        assertTrue(verdict(newer).get("kept").asBoolean());

        aHoldIsPlacedMeanwhile(old);
        send("retention/releases", "{\"images\":[\"" + newer + "\"]}").andExpect(status().isConflict());

        long free = room();
        send("retention/releases", "{\"images\":[\"" + old + "\"]}").andExpect(status().isOk());
        JsonNode release = released(old);
        assertEquals("trash", release.get("state").asText());
        assertFalse(Files.exists(onDrive("GNOMON-old")));
        assertEquals(free, room(),
            "the trash still takes its room");
        assertEquals("released", read("/api/v1/images/" + old).get("image").get("shelf").asText());
        // two technicians at once: the second is told who was first
        send("retention/releases", "{\"images\":[\"" + old + "\"]}").andExpect(status().isConflict())
            .andExpect(jsonPath("$.detail", containsString("was released by technician already")));
        send("retention/images/" + old + "/holds", "{\"reason\":\"too late\",\"until\":null}").andExpect(status().isConflict());

        send("retention/releases/" + release.get("id").asText() + "/take-back", "").andExpect(status().isOk());
        assertTrue(Files.exists(onDrive("GNOMON-old/data/image.json")));
        assertEquals(read("/api/v1/images/" + newer + "/facts").get("partitions"),
            read("/api/v1/images/" + old + "/facts").get("partitions"), "it can be read as before");

        itsDriveIsAway(old);
        assertEquals(0, roomMaker.makeRoom("peg-1", roomMaker.trashBytes("peg-1") + 1),
            "more than lies there: nothing is lost for nothing");
        assertEquals("trash", released(old).get("state").asText());
        assertTrue(roomMaker.makeRoom("peg-1", roomMaker.trashBytes("peg-1")) > 0);
        assertEquals("emptied", released(old).get("state").asText());
        assertTrue(room() > free);
        send("retention/releases/" + released(old).get("id").asText() + "/take-back", "").andExpect(status().isConflict())
            .andExpect(jsonPath("$.detail", containsString("for good")));
        String journal = read("/api/v1/journal?action=release").toString() + read("/api/v1/journal?text=taken back");
        assertTrue(journal.contains("GNOMON-old was moved to the trash of PEG-1") && journal.contains("was taken back from the trash"),
            journal);
        capture("GNOMON-old");
    }

    /** While a colleague has the list before her. */
    private void aHoldIsPlacedMeanwhile(String old) throws Exception {
        JsonNode held = json.readTree(send("retention/images/" + old + "/holds", "{\"reason\":\"before the upgrade\",\"until\":null}")
            .andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
        assertTrue(held.get("why").asText().contains("before the upgrade"));
        send("retention/releases", "{\"images\":[\"" + old + "\"]}").andExpect(status().isConflict())
            .andExpect(jsonPath("$.type", endsWith("kept-meanwhile")))
            .andExpect(jsonPath("$.detail", containsString("before the upgrade")));
        assertTrue(Files.exists(onDrive("GNOMON-old")));
        send("retention/images/" + old + "/holds/" + held.get("holds").get(0).get("id").asText() + "/end", "").andExpect(status().isOk());
    }

    private long room() throws Exception {
        return store.destinations().stream().filter(d -> d.id().equals("peg-1")).findFirst().orElseThrow().freeBytes();
    }

    /** Decided now, done when it comes. */
    private void itsDriveIsAway(String old) throws Exception {
        unplug(true);
        send("retention/releases", "{\"images\":[\"" + old + "\"]}").andExpect(status().isOk());
        assertEquals("waiting", released(old).get("state").asText());
        assertTrue(Files.exists(onDrive("GNOMON-old")));
        unplug(false);
        releases.carryOut();
        assertEquals("trash", released(old).get("state").asText());
        assertFalse(Files.exists(onDrive("GNOMON-old")));
    }

    /** The trash said it was emptied, and nothing could take it back. */
    @Test
    void whatAKillLeftBetweenTheDriveAndTheDatabaseIsSettledInWords() throws Exception {
        String old = capture("GNOMON-killed");
        capture("GNOMON-since");
        send("retention/releases", "{\"images\":[\"" + old + "\"]}").andExpect(status().isOk());
        String id = released(old).get("id").asText();
        store.shelf("peg-1").takeBack(id); // and killed before the database had it
        releases.carryOut();
        assertEquals("taken-back", released(old).get("state").asText());
        assertEquals("kept", read("/api/v1/images/" + old).get("image").get("shelf").asText());
        send("retention/releases", "{\"images\":[\"" + old + "\"]}").andExpect(status().isOk());
        store.shelf("peg-1").empty(released(old).get("id").asText()); // by other hands, or killed
        releases.carryOut();
        assertEquals("emptied", released(old).get("state").asText());
        String journal = read("/api/v1/journal?text=GNOMON-killed").toString();
        assertTrue(journal.contains("it counts as taken back") && journal.contains("Granary did not remove it"), journal);
    }

    @Test
    void aMoveThatFailsIsToldAndTriedAgain() throws Exception {
        String old = capture("GNOMON-a");
        capture("GNOMON-b");
        Files.move(onDrive("GNOMON-a"), onDrive("elsewhere-a"));
        send("retention/releases", "{\"images\":[\"" + old + "\"]}").andExpect(status().isOk());
        assertEquals("failed", released(old).get("state").asText());
        assertTrue(released(old).get("trouble").asText().contains("not on the drive any more"), released(old).toString());
        Files.move(onDrive("elsewhere-a"), onDrive("GNOMON-a"));
        releases.carryOut();
        assertEquals("trash", released(old).get("state").asText());
    }

    @Test
    void theOutlookCountsEveryDestinationAndTakesOtherRules() throws Exception {
        capture("GNOMON-x");
        JsonNode own = read("/api/v1/retention/outlook");
        assertEquals(6, own.get("destinations").size());
        own.get("destinations").forEach(d -> assertTrue(d.get("points").size() > 50, d.toString()));
        JsonNode all = read("/api/v1/retention/outlook?last=0");
        assertEquals("Every image is kept.", all.get("policy").asText());
        http.perform(get("/api/v1/retention/outlook?last=5000")).andExpect(status().isBadRequest())
            .andExpect(jsonPath("$.detail", containsString("Counts are 0 to 999")));
    }
}
