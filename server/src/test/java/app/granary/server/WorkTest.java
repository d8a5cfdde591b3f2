package app.granary.server;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.endsWith;
import static org.hamcrest.Matchers.hasItem;
import static org.hamcrest.Matchers.hasSize;
import static org.hamcrest.Matchers.is;
import static org.hamcrest.Matchers.startsWith;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.time.Duration;
import java.time.Instant;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.ResultActions;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

/** The work over the wire: from computers to a proven image, and every refusal on the way. */
@WithMockUser(username = "technician", roles = "TECHNICIAN")
class WorkTest extends ServerTestBase {
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;

    private JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    private ResultActions capture(String disk, String destination, String name, String codec) throws Exception {
        return http.perform(post("/api/v1/runs").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content("{\"diskId\":\"" + disk + "\",\"destinationId\":\"" + destination
                + "\",\"name\":\"" + name + "\",\"codec\":\"" + codec
                + "\",\"level\":null,\"splitBytes\":null,\"allBlocks\":false,\"keepSwap\":false,\"without\":[],\"passphrase\":null}"));
    }

    private JsonNode endedOf(ResultActions begun) throws Exception {
        return ended(
            json.readTree(begun.andExpect(status().isCreated()).andReturn().getResponse().getContentAsString()).get("id").asText());
    }

    private ResultActions send(MockHttpServletRequestBuilder request, String body) throws Exception {
        return http.perform(request.with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content(body));
    }

    private JsonNode ended(String id) throws Exception {
        Instant latest = Instant.now().plus(Duration.ofMinutes(2));
        while (Instant.now().isBefore(latest)) {
            JsonNode run = read("/api/v1/runs/" + id);
            if (run.has("endedAt") && !run.get("endedAt").isNull()) {
                return run;
            }
            Thread.sleep(100);
        }
        throw new AssertionError("the run did not end");
    }

    @Test
    void anEstimateComesWithItsWorkingAndWeighsEveryDestination() throws Exception {
        http.perform(get("/api/v1/estimates?diskId=meridian")).andExpect(status().isOk()).andExpect(jsonPath("$.basis", is("sample")))
            .andExpect(jsonPath("$.working.lines[*].label", hasItem("Standard error"))).andExpect(jsonPath("$.destinations", hasSize(6)))
            .andExpect(jsonPath("$.destinations[0].rank", is(1)))
            .andExpect(jsonPath("$.destinations[?(@.name=='PEG-2')].refusals[0]").value(hasItem(containsString("short"))))
            .andExpect(jsonPath("$.suggestedName", startsWith("MERIDIAN-system-disk-2")));
        read("/api/v1/estimates?diskId=meridian").get("destinations")
            .forEach(d -> assertTrue(d.get("time").get("highSeconds").asDouble() > 0, d.toString()));
        http.perform(get("/api/v1/estimates?diskId=meridian&codec=rar")).andExpect(status().isBadRequest())
            .andExpect(jsonPath("$.detail", containsString("Choose one of")));
        JsonNode own = read("/api/v1/estimates?diskId=datum-2");
        own.get("destinations").forEach(d -> assertEquals(d.get("name").asText().equals("SHELF"), d.get("itself").asBoolean()));
    }

    @Test
    void aCaptureEndsAsAnImageWithEvidenceAndIsJournalled() throws Exception {
        String body = capture("gnomon", "peg-1", "GNOMON-a", "zstd").andExpect(status().isCreated()).andReturn().getResponse()
            .getContentAsString();
        JsonNode run = ended(json.readTree(body).get("id").asText());
        assertEquals("done", run.get("state").asText(), run.toString());
        JsonNode image = read("/api/v1/images/" + run.get("imageId").asText());
        assertEquals(3, image.get("image").get("proof").asInt());
        assertEquals("readable", image.get("checks").get(0).get("level").asText());
        long stored = image.get("image").get("storedBytes").asLong();
        assertTrue(image.get("image").get("lowBytes").asLong() <= stored && stored <= image.get("image").get("highBytes").asLong());
        for (String name : new String[] {"GNOMON-a", "gnomon-A"}) { // some file systems do not tell these apart
            capture("gnomon", "peg-1", name, "zstd").andExpect(status().isConflict()).andExpect(jsonPath("$.type", endsWith("name-taken")));
        }
        String check = http
            .perform(post("/api/v1/runs/checks").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
                .content("{\"imageId\":\"" + run.get("imageId").asText() + "\",\"level\":\"rehearsed\",\"passphrase\":null}"))
            .andExpect(status().isCreated()).andReturn().getResponse().getContentAsString();
        assertEquals("done", ended(json.readTree(check).get("id").asText()).get("state").asText());
        http.perform(get("/api/v1/journal")).andExpect(jsonPath("$.lines[*].sentence", hasItem(startsWith("Image GNOMON-a made on PEG-1"))))
            .andExpect(jsonPath("$.lines[*].sentence", hasItem(startsWith("Image GNOMON-a on PEG-1 is rehearsed"))));
    }

    /** A folder for each maker and computer, on the drive of the copy as well; and who asked for the one image is told of it. */
    @Test
    void anImageLiesInItsFolderSoDoesItsCopyAndWhoAskedIsTold() throws Exception {
        String capture = """
            {"diskId":"gnomon","destinationId":"peg-1","name":"GNOMON-f","codec":"zstd","allBlocks":false,"keepSwap":false,"without":[],
             "folder":"%s","mailTo":["%s"]}""";
        send(post("/api/v1/runs"), capture.formatted("{owner}", "")).andExpect(status().isBadRequest())
            .andExpect(jsonPath("$.field", is("folder"))).andExpect(jsonPath("$.detail", containsString("stands for nothing")));
        send(post("/api/v1/runs"), capture.formatted("", "ada")).andExpect(status().isBadRequest())
            .andExpect(jsonPath("$.field", is("mailTo"))).andExpect(jsonPath("$.detail", containsString("no mail address")));
        String folder = json.readTree(http.perform(get("/api/v1/folders/example?pattern={p}&diskId=gnomon", "{maker}/{computer}"))
            .andExpect(status().isOk()).andReturn().getResponse().getContentAsString()).get("folder").asText();
        assertTrue(folder.endsWith("/GNOMON"), folder);
        JsonNode run = endedOf(send(post("/api/v1/runs"), capture.formatted("{maker}/{computer}", "ada@office.example")));
        assertTrue(run.get("outcome").asText().endsWith(" It lies in " + folder + "."), run.toString());
        String image = run.get("imageId").asText();
        http.perform(get("/api/v1/images/" + image)).andExpect(jsonPath("$.image.location", is(folder)));
        assertSoon("Done: image of GNOMON card", () -> read("/api/v1/mail").path(0).path("subject").asText());
        JsonNode copied = endedOf(
            send(post("/api/v1/runs/copies"), "{\"imageId\":\"" + image + "\",\"toDestinationId\":\"cairn\"}"));
        http.perform(get("/api/v1/images/" + copied.get("imageId").asText())).andExpect(jsonPath("$.image.location", is(folder)));
        String check = "{\"imageId\":\"" + copied.get("imageId").asText() + "\",\"level\":\"readable\"}";
        assertEquals("done", endedOf(send(post("/api/v1/runs/checks"), check)).get("state").asText());
        String discs = "/api/v1/images/" + image + "/discs";
        send(post(discs), "{\"disc\":\"CD\",\"iso\":false}").andExpect(status().isBadRequest())
            .andExpect(jsonPath("$.detail", containsString("Choose DVD+R, DVD-R or BD-R")));
        JsonNode laid = ended(json.readTree(send(post(discs), "{\"disc\":\"DVD+R\",\"iso\":true}").andExpect(status().isCreated())
            .andReturn().getResponse().getContentAsString()).get("runId").asText());
        assertTrue(laid.get("outcome").asText().contains("is laid out for 1 DVD+R on PEG-1, in granary-discs/GNOMON-f-disc-1-of-1. "
            + "Burn each .iso onto a disc of its own"), laid.toString());
        assertTrue(ended(json.readTree(send(post(discs), "{\"disc\":\"DVD+R\",\"iso\":true}").andReturn().getResponse()
            .getContentAsString()).get("runId").asText()).get("outcome").asText().contains("is there already; nothing was written over"));
    }

    /** SHELF is a folder on DATUM's second disk: what lies there of that disk goes with it. */
    @Test
    void aCopyOnTheDiskItselfCoversNothing() throws Exception {
        String image = endedOf(capture("datum-2", "cairn", "DATUM-2-a", "zstd")).get("imageId").asText();
        JsonNode copied = endedOf(send(post("/api/v1/runs/copies"), "{\"imageId\":\"" + image + "\",\"toDestinationId\":\"shelf\"}"));
        assertEquals("done", copied.get("state").asText(), copied.toString());
        http.perform(get("/api/v1/images/" + copied.get("imageId").asText()))
            .andExpect(jsonPath("$.image.partly", is("for a quick roll-back, on the disk itself")));
        JsonNode cover = StreamSupport.stream(read("/api/v1/today").get("cover").spliterator(), false)
            .filter(each -> each.get("diskId").asText().equals("datum-2")).findFirst().orElseThrow();
        assertEquals("CAIRN", cover.get("lies").asText(), "the copy is as new, and lies nearer");
        assertTrue(cover.get("words").asText().endsWith("; a quick roll-back image lies on the disk itself"), cover.toString());
        String cards = read("/api/v1/cards").toString();
        assertTrue(cards.contains("A quick roll-back image of disk 2, surveys"), cards);
    }

    /** Where no plan and no person says otherwise; back to Granary's own folder with an empty text. */
    @Test
    void theOfficesFolderHoldsForAllThatSayNothing() throws Exception {
        for (String folder : new String[] {"{computer}/{year}", ""}) {
            JsonNode now = read("/api/v1/office/choices");
            ObjectNode form = ((ObjectNode) now.get("form")).put("folder", folder);
            send(put("/api/v1/office/choices").header("If-Match", "\"" + now.get("version").asText() + "\""), form.toString())
                .andExpect(status().isOk()).andExpect(jsonPath("$.form.folder", is(folder)));
            http.perform(get("/api/v1/folders/example?diskId=gnomon"))
                .andExpect(jsonPath("$.folder", folder.isEmpty() ? is("") : startsWith("GNOMON/2")));
        }
        JsonNode now = read("/api/v1/office/choices");
        send(put("/api/v1/office/choices").header("If-Match", "\"" + now.get("version").asText() + "\""),
            ((ObjectNode) now.get("form")).put("folder", "../x").toString()).andExpect(status().isBadRequest())
            .andExpect(jsonPath("$.field", is("folder")));
    }

    @Test
    void refusalsNameTheFigureTheDeviceAndTheField() throws Exception {
        capture("meridian", "peg-2", "x", "zstd").andExpect(status().isConflict()).andExpect(jsonPath("$.type", endsWith("unfit-room")))
            .andExpect(jsonPath("$.detail", startsWith("PEG-2 is ")));
        capture("datum-2", "shelf", "x", "zstd").andExpect(status().isConflict())
            .andExpect(jsonPath("$.type", endsWith("unfit-not-itself")));
        capture("datum-1", "peg-3", "x", "zstd").andExpect(status().isConflict());
        capture("gnomon", "nowhere", "x", "zstd").andExpect(status().isNotFound());
        capture("nothing", "peg-1", "x", "zstd").andExpect(status().isNotFound());
        capture("gnomon", "peg-1", "../x", "zstd").andExpect(status().isBadRequest()).andExpect(jsonPath("$.type", endsWith("bad-choice")));
        capture("gnomon", "", "x", "zstd").andExpect(status().isBadRequest()).andExpect(jsonPath("$.field", is("destinationId")));
        http.perform(post("/api/v1/runs/" + java.util.UUID.randomUUID() + "/stop").with(csrf().asHeader()))
            .andExpect(status().isConflict());
        http.perform(get("/api/v1/images/" + java.util.UUID.randomUUID())).andExpect(status().isNotFound());
    }

    @Test
    void everyPageOfTheApplicationIsThePage() throws Exception {
        for (String path : new String[] {"/", "/computers", "/computers/x", "/make-image/gnomon", "/import", "/runs", "/images", "/journal",
            "/sign-in"}) {
            http.perform(get(path)).andExpect(status().isOk())
                .andExpect(result -> assertEquals("/index.html", result.getResponse().getForwardedUrl()));
        }
    }
}
