package app.granary.server.reconciliation;

import static org.hamcrest.Matchers.containsString;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.server.ServerTestBase;
import app.granary.server.home.GranarySettings;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.StreamSupport;
import app.granary.core.reconciliation.Difference;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.ResultActions;
import org.springframework.util.FileSystemUtils;

/** Drives of the simulated office whose bags were moved by other hands, or that came without the database. */
@WithMockUser(username = "technician", roles = "TECHNICIAN")
class ReconciliationWireTest extends ServerTestBase {
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;
    @Autowired
    private Reconciliation reconciliation;
    @Autowired
    private GranarySettings settings;
    @Autowired
    private app.granary.standins.Switchboard switchboard;

    private JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    private ResultActions send(String path, String body) throws Exception {
        return http.perform(post("/api/v1/" + path).with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content(body));
    }

    private JsonNode ended(ResultActions begun) throws Exception {
        String run = json.readTree(begun.andExpect(status().isCreated()).andReturn().getResponse().getContentAsString()).get("id").asText();
        for (int i = 0; i < 600; i++) {
            JsonNode now = read("/api/v1/runs/" + run);
            if (!now.get("endedAt").isNull()) {
                assertEquals("done", now.get("state").asText(), now.toString());
                return now;
            }
            Thread.sleep(100);
        }
        throw new AssertionError("the run did not end");
    }

    private String capture(String name) throws Exception {
        return ended(send("runs", "{\"diskId\":\"gnomon\",\"destinationId\":\"peg-1\",\"name\":\"" + name
            + "\",\"codec\":\"zstd\",\"level\":1,\"splitBytes\":null,\"allBlocks\":false,\"keepSwap\":false,\"without\":[],"
            + "\"passphrase\":null}"))
            .get("imageId").asText();
    }

    private Path onDrive(String name) {
        return settings.home().resolve("office/drives/peg-1").resolve(name);
    }

    /** The drive is taken off and attached again, and looked at twice. */
    private List<Difference> attachedAgain() throws Exception {
        switchboard.turn("unplug:peg-1", true);
        reconciliation.lookWhereDue();
        assertEquals(List.of(), ofPeg(), "a drive that is away differs in nothing");
        switchboard.turn("unplug:peg-1", false);
        reconciliation.lookWhereDue();
        assertEquals(List.of(), ofPeg(), "it may be work under way");
        reconciliation.lookWhereDue();
        return ofPeg();
    }

    private List<Difference> ofPeg() {
        return reconciliation.differences().stream().filter(each -> each.driveId().equals("peg-1")).toList();
    }

    private JsonNode todo(String kind) throws Exception {
        return StreamSupport.stream(read("/api/v1/today").get("todos").spliterator(), false)
            .filter(each -> each.get("kind").asText().equals(kind)).findFirst().orElseThrow();
    }

    private boolean damaged(String image) throws Exception {
        return read("/api/v1/images/" + image).get("image").get("damaged").asBoolean();
    }

    @AfterEach
    void plugIn() throws Exception {
        switchboard.turn("unplug:peg-1", false);
    }

    @Test
    void aMissingImageCountsForNothingIsToldAndComesBackByACheck() throws Exception {
        String image = capture("GNOMON-moved");
        assertEquals(List.of(), attachedAgain());
        Files.move(onDrive("GNOMON-moved"), settings.home().resolve("moved"));
        assertEquals(List.of(new Difference(Difference.Kind.MISSING, "peg-1", "PEG-1", List.of("GNOMON-moved"))), attachedAgain());
        assertTrue(damaged(image));
        JsonNode told = todo("missing");
        assertEquals("GNOMON-moved is missing on PEG-1", told.get("title").asText());
        assertEquals(image, told.get("subject").asText());
        assertTrue(
            read("/api/v1/journal?text=GNOMON-moved").toString().contains("GNOMON-moved is not on PEG-1 any more. Nothing counts on it."));
        assertFalse(read("/api/v1/today").toString().contains("GNOMON-moved on PEG-1 is damaged"), "it is told once");
        attachedAgain();
        assertEquals(2, read("/api/v1/images/" + image).get("checks").size(),
            "it is found missing once: " + read("/api/v1/images/" + image).get("checks"));
        Files.move(settings.home().resolve("moved"), onDrive("GNOMON-moved"));
        assertEquals(List.of(), attachedAgain());
        assertTrue(damaged(image), "nobody has read it since");
        ended(send("runs/checks", "{\"imageId\":\"" + image + "\",\"level\":\"sound\",\"passphrase\":null}"));
        assertFalse(damaged(image));
    }

    @Test
    void aMissingImageIsWrittenOffAndIsUnknownWhenItComesBack() throws Exception {
        String gone = capture("GNOMON-gone");
        String here = capture("GNOMON-here");
        Files.move(onDrive("GNOMON-gone"), settings.home().resolve("gone"));
        attachedAgain();
        send("reconciliation/written-off", "{\"images\":[\"" + gone + "\",\"" + here + "\"]}").andExpect(status().isConflict())
            .andExpect(jsonPath("$.detail", containsString("GNOMON-here is on PEG-1. Nothing was changed")));
        assertEquals("kept", read("/api/v1/images/" + gone).get("image").get("shelf").asText());
        send("reconciliation/written-off", "{\"images\":[\"" + gone + "\"]}").andExpect(status().isNoContent());
        assertEquals(List.of(), ofPeg());
        assertEquals("gone", read("/api/v1/images/" + gone).get("image").get("shelf").asText());
        assertTrue(read("/api/v1/journal?text=written off").toString().contains("GNOMON-gone is gone from PEG-1, and was written off."));
        Files.move(settings.home().resolve("gone"), onDrive("GNOMON-gone"));
        assertEquals(List.of(new Difference(Difference.Kind.UNKNOWN_IMAGES, "peg-1", "PEG-1", List.of("GNOMON-gone"))), attachedAgain());
        assertEquals("PEG-1 holds an image that Granary does not know", todo("unknown").get("title").asText());
        FileSystemUtils.deleteRecursively(onDrive("GNOMON-gone"));
        assertEquals(List.of(), attachedAgain());
    }

    @Test
    void whatNoReleasePutIntoATrashIsTold() throws Exception {
        Path strange = Files.createDirectories(onDrive("granary-trash/of-another"));
        assertEquals(List.of(new Difference(Difference.Kind.UNKNOWN_IN_TRASH, "peg-1", "PEG-1", List.of("of-another"))), attachedAgain());
        assertTrue(todo("trash").get("reason").asText().startsWith("granary-trash/of-another. What lies in it may be an image"));
        JsonNode line = read("/api/v1/reconciliation").get(0);
        assertEquals("unknown-in-trash", line.get("kind").asText());
        Files.delete(strange);
        assertEquals(List.of(), attachedAgain());
    }
}
