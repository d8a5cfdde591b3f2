package app.granary.server;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.hasItem;
import static org.hamcrest.Matchers.hasSize;
import static org.hamcrest.Matchers.is;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.delete;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

/** From a pulled drive to a proven image, and from a flipped byte to a repaired one, over the wire. */
@WithMockUser(username = "technician", roles = "TECHNICIAN")
class ProofTest extends ServerTestBase {
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;

    private JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    private JsonNode send(MockHttpServletRequestBuilder request, String body) throws Exception {
        String answer = http.perform(request.with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content(body))
            .andExpect(status().is2xxSuccessful()).andReturn().getResponse().getContentAsString();
        return answer.isEmpty() ? json.nullNode() : json.readTree(answer);
    }

    private void turn(String id, boolean on) throws Exception {
        send(put("/api/v1/switches/" + id), "{\"on\":" + on + "}");
    }

    private JsonNode ended(JsonNode run) throws Exception {
        Instant latest = Instant.now().plus(Duration.ofMinutes(5));
        JsonNode now = read("/api/v1/runs/" + run.get("id").asText());
        while (now.get("endedAt").isNull() && Instant.now().isBefore(latest)) {
            Thread.sleep(50);
            now = read("/api/v1/runs/" + run.get("id").asText());
        }
        assertFalse(now.get("endedAt").isNull(), "the run did not end");
        return now;
    }

    private static String capture(String disk, String destination, String name, String passphrase) {
        return "{\"diskId\":\"" + disk + "\",\"destinationId\":\"" + destination + "\",\"name\":\"" + name
            + "\",\"codec\":\"zstd\",\"level\":null,\"splitBytes\":null,\"allBlocks\":false,\"keepSwap\":false,"
            + "\"without\":[],\"passphrase\":" + (passphrase.isEmpty() ? "null" : "\"" + passphrase + "\"") + "}";
    }

    @Test
    void aPulledDriveIsCarriedOn() throws Exception {
        turn("slow:cairn", true);
        JsonNode run = send(post("/api/v1/runs"), capture("contour-1", "cairn", "PULLED", "two words")
            .replace("{\"diskId\"", "{\"folder\":\"{computer}\",\"mailTo\":[\"ada@office.example\"],\"diskId\""));
        Instant latest = Instant.now().plusSeconds(60);
        while (read("/api/v1/runs/live").isEmpty() || read("/api/v1/runs/live").get(0).get("storedBytes").asLong() < 3_000_000_000L) {
            assertTrue(Instant.now().isBefore(latest), "it does not get on");
            Thread.sleep(20);
        }
        turn("unplug:cairn", true);
        JsonNode failed = ended(run);
        assertEquals("failed", failed.get("state").asText());
        assertTrue(failed.get("outcome").asText().startsWith("Writing to CAIRN failed"), failed.toString());
        assertTrue(read("/api/v1/unfinished").isEmpty(), "what lies on a drive that is away cannot be seen");
        turn("unplug:cairn", false);
        turn("slow:cairn", false);
        JsonNode left = read("/api/v1/unfinished").get(0);
        assertEquals("PULLED", left.get("name").asText());
        assertTrue(
            left.get("encrypted").asBoolean() && left.get("diskKnown").asBoolean() && left.get("why").asText().contains("CAIRN failed"),
            left.toString());
        http.perform(get("/api/v1/today")).andExpect(jsonPath("$.todos[*].title", hasItem(containsString("PULLED is not finished"))));
        http.perform(post("/api/v1/unfinished/cairn/PULLED/carry-on").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content("{\"passphrase\":null}")).andExpect(status().isUnprocessableEntity())
            .andExpect(jsonPath("$.detail", containsString("Enter the passphrase")));
        JsonNode done = ended(send(post("/api/v1/unfinished/cairn/PULLED/carry-on"), "{\"passphrase\":\"two words\"}"));
        assertEquals("done", done.get("state").asText(), done.toString());
        isAsItWasAskedFor(done);
        http.perform(post("/api/v1/runs/checks").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content("{\"imageId\":\"" + done.get("imageId").asText() + "\",\"level\":null,\"passphrase\":null}"))
            .andExpect(status().isUnprocessableEntity()).andExpect(jsonPath("$.field", is("passphrase")));
        JsonNode wrong = ended(send(post("/api/v1/runs/checks"),
            "{\"imageId\":\"" + done.get("imageId").asText() + "\",\"level\":null,\"passphrase\":\"to words\"}"));
        assertTrue(wrong.get("outcome").asText().contains("does not open"), wrong.toString());
        assertEquals("readable", read("/api/v1/images/" + done.get("imageId").asText()).get("image").get("proven").asText(),
            "a wrong passphrase says nothing of the image");
        assertFalse(read("/api/v1/journal").toString().contains("two words"), "no passphrase in the journal");
    }

    private void isAsItWasAskedFor(JsonNode done) throws Exception {
        JsonNode image = read("/api/v1/images/" + done.get("imageId").asText()).get("image");
        assertEquals("readable", image.get("proven").asText());
        assertTrue(image.get("encrypted").asBoolean());
        assertEquals("CONTOUR", image.get("location").asText(), "it lies where it was to lie when it was begun");
        // who was to be told still is
        assertSoon("Done: image of CONTOUR disk 1, system", () -> read("/api/v1/mail").path(0).path("subject").asText());
    }

    /** Each of the two would fit alone; PEG-3 ends files at 4 GiB, so they come in parts. */
    @Test
    void theSecondOfTwoRunsOntoTheLastFreeBytesIsRefusedByWhatTheFirstIsPromised() throws Exception {
        turn("slow:peg-3", true);
        JsonNode first = send(post("/api/v1/runs"),
            capture("plumb", "peg-3", "FIRST", "").replace("\"splitBytes\":null", "\"splitBytes\":4000000000"));
        Instant latest = Instant.now().plusSeconds(60);
        while (read("/api/v1/runs/live").isEmpty() || read("/api/v1/runs/live").get(0).get("storedBytes").asLong() == 0) {
            assertTrue(Instant.now().isBefore(latest), "it does not get on");
            Thread.sleep(20);
        }
        http.perform(post("/api/v1/runs").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content(capture("tripod", "peg-3", "SECOND", "").replace("\"splitBytes\":null", "\"splitBytes\":4000000000")))
            .andExpect(status().isConflict()).andExpect(jsonPath("$.type", containsString("unfit-room")))
            .andExpect(jsonPath("$.detail", containsString("promised")));
        send(post("/api/v1/runs/" + first.get("id").asText() + "/stop"), "");
        assertEquals("stopped", ended(first).get("state").asText());
        turn("slow:peg-3", false);
        send(delete("/api/v1/unfinished/peg-3/FIRST"), "");
    }

    @Test
    void aFlippedByteIsFoundNamedMendedAndSigned() throws Exception {
        String id = ended(send(post("/api/v1/runs"), capture("datum-1", "peg-1", "FLIPPED", ""))).get("imageId").asText();
        String copy = ended(send(post("/api/v1/runs/copies"), "{\"imageId\":\"" + id + "\",\"toDestinationId\":\"cairn\"}")).get("imageId")
            .asText();
        assertEquals("sound", read("/api/v1/images/" + copy).get("image").get("proven").asText());
        assertEquals(copy, read("/api/v1/images/" + id).get("copies").get(0).get("id").asText());
        turn("flip:peg-1", true);
        JsonNode found = ended(send(post("/api/v1/runs/checks"), "{\"imageId\":\"" + id + "\",\"level\":\"sound\",\"passphrase\":null}"));
        assertEquals("failed", found.get("state").asText());
        JsonNode check = read("/api/v1/images/" + id).get("checks").get(0);
        assertTrue(
            check.get("problems").get(0).get("diskEndBytes").asLong() > 0 && check.get("good").asText().contains("can still be restored"),
            check.toString());
        assertFalse(check.get("lost").isEmpty());
        http.perform(get("/api/v1/today")).andExpect(jsonPath("$.todos[*].title", hasItem("FLIPPED on PEG-1 is damaged")));
        assertTrue(read("/api/v1/images/" + id + "/facts").get("partitions").size() > 1);
        JsonNode repaired = ended(
            send(post("/api/v1/runs/repairs"), "{\"imageId\":\"" + id + "\",\"fromImageId\":\"" + copy + "\",\"passphrase\":null}"));
        assertTrue(repaired.get("outcome").asText().contains("was repaired from CAIRN"), repaired.toString());
        assertEquals("readable", read("/api/v1/images/" + id).get("image").get("proven").asText());
        http.perform(post("/api/v1/images/" + id + "/booted").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content("{\"lookedAt\":\"\"}")).andExpect(status().isBadRequest());
        send(post("/api/v1/images/" + id + "/booted"), "{\"lookedAt\":\"log-in, the survey share, three drawings\"}");
        send(put("/api/v1/images/" + id + "/note"), "{\"text\":\"before the upgrade\"}");
        JsonNode image = read("/api/v1/images/" + id).get("image");
        assertEquals(5, image.get("proof").asInt());
        assertEquals("before the upgrade", image.get("note").asText());
        assertTrue(read("/api/v1/runs").toString().contains("t took about as long as estimated")
            || read("/api/v1/runs").toString().contains("than estimated"), "why a run differs is told");
    }

    @Test
    void aNightIsQueuedStartedByHandMailedAndOneWithoutItsPassphraseIsRefused() throws Exception {
        JsonNode night = read("/api/v1/night");
        String date = night.get("date").asText();
        if (night.get("rows").isEmpty()) {
            http.perform(post("/api/v1/night/" + date + "/start").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
                .content("{\"passphrases\":{}}")).andExpect(status().isConflict());
            return; // at this hour nothing of tonight fits any more
        }
        int count = night.get("rows").size();
        send(post("/api/v1/night/" + date + "/start"), "{\"passphrases\":{}}");
        send(post("/api/v1/night/" + date + "/start"), "{\"passphrases\":{}}");
        JsonNode waiting = read("/api/v1/runs/waiting");
        assertTrue(waiting.size() <= count && read("/api/v1/night").get("started").asBoolean(), "started twice, queued once");
        for (JsonNode run : waiting) {
            if (run.get("computer").asText().equals("GNOMON")) {
                send(post("/api/v1/runs/" + run.get("id").asText() + "/start"), "{\"passphrase\":null}");
            } else {
                http.perform(post("/api/v1/runs/" + run.get("id").asText() + "/stop").with(csrf().asHeader()))
                    .andExpect(status().isNoContent());
            }
        }
        for (JsonNode run : read("/api/v1/runs")) {
            if (run.get("ofNight").asBoolean()) {
                ended(run);
            }
        }
        http.perform(get("/api/v1/runs/waiting")).andExpect(jsonPath("$", hasSize(0)));
        JsonNode mail = read("/api/v1/mail");
        for (JsonNode each : mail) {
            assertTrue(each.get("subject").asText().startsWith("Night of "), each.toString());
            assertFalse(each.get("sent").asBoolean());
        }
        http.perform(delete("/api/v1/unfinished/peg-1/nothing").with(csrf().asHeader())).andExpect(status().isNotFound());
    }
}
