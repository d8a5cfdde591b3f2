package app.granary.server.computer;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.endsWith;
import static org.hamcrest.Matchers.hasItem;
import static org.hamcrest.Matchers.hasSize;
import static org.hamcrest.Matchers.is;
import static org.hamcrest.Matchers.startsWith;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.delete;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.header;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.DiskRegister;
import app.granary.core.disk.SeenDisk;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import com.fasterxml.jackson.databind.JsonNode;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;

/** The inventory over the wire, from the simulated office's disks to reports of computers that are elsewhere. */
@WithMockUser(username = "technician", roles = "TECHNICIAN")
class InventoryTest extends InventoryFixture {
    @Test
    void theWholeOfficeIsThereInItsOwnSizes() throws Exception {
        JsonNode meridian = computer("MERIDIAN").get("disks").get(0);
        assertEquals(1_000_204_886_016L, meridian.get("sizeBytes").asLong());
        assertEquals(List.of("vfat", "unknown", "ntfs", "ntfs"),
            StreamSupport.stream(meridian.get("partitions").spliterator(), false).map(p -> p.get("fileSystem").asText()).toList());
        assertEquals("page file", meridian.get("partitions").get(2).get("leftOut").get(0).get("what").asText());
        assertEquals(4096, computer("CONTOUR").get("disks").get(1).get("sectorBytes").asInt());
        assertTrue(computer("LEDGER").get("disks").get(0).get("partitions").get(1).get("reason").asText().contains("dirty"));
        assertTrue(computer("TRIPOD").get("warning").asText().contains("kept on TRIPOD itself"));
        assertTrue(computer("ISOBAR").get("disks").get(0).get("partitions").get(1).get("usedBytes").asLong() > 0,
            "Btrfs tells its used bytes");
        JsonNode plumb = detail("PLUMB");
        assertEquals(13 + 1, plumb.get("disks").get(0).get("readings").size(), "three months of weeks, and today");
        assertEquals("bios", plumb.get("form").get("firmware").asText());
        assertTrue(plumb.get("disks").get(0).get("gaps").size() > 0);
        http.perform(get("/api/v1/computers/disks/nothing")).andExpect(status().isNotFound())
            .andExpect(jsonPath("$.type", endsWith("not-found")));
    }

    @Test
    void aPersonsWordsStandAndNobodyOverwritesAnothers() throws Exception {
        JsonNode before = detail("GNOMON");
        save(before, "keyPlace", "under the mat").andExpect(status().isBadRequest()).andExpect(jsonPath("$.field", is("keyPlace")));
        save(before, "name", " ").andExpect(status().isBadRequest()).andExpect(jsonPath("$.detail", containsString("needs a name")));
        save(before, "name", "plumb").andExpect(status().isConflict()).andExpect(jsonPath("$.type", endsWith("name-taken")));
        save(before, "note", "card is worn").andExpect(status().isOk()).andExpect(jsonPath("$.form.note", is("card is worn")));
        save(before, "note", "card is new").andExpect(status().isPreconditionFailed())
            .andExpect(jsonPath("$.detail", startsWith("Someone changed GNOMON")));
        allDisksAreRead();
        assertEquals("card is worn", detail("GNOMON").get("form").get("note").asText(), "reading the disks again leaves it alone");
        http.perform(get("/api/v1/journal"))
            .andExpect(jsonPath("$.lines[*].sentence", hasItem("GNOMON: note was empty, is \"card is worn\".")));
    }

    @Test
    void addedRetiredAndBroughtBack() throws Exception {
        String form = json.writeValueAsString(detail("GNOMON").get("form")).replace("\"GNOMON\"", "\"SPARE\"");
        http.perform(post("/api/v1/computers").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content(form))
            .andExpect(status().isCreated());
        String id = computer("SPARE").get("id").asText();
        http.perform(post("/api/v1/computers/" + id + "/retirement").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content("{\"retired\":true}")).andExpect(status().isOk());
        assertTrue(computer("SPARE").get("retired").asBoolean());
        http.perform(post("/api/v1/computers/" + id + "/retirement").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content("{\"retired\":false}")).andExpect(status().isOk());
        assertTrue(!computer("SPARE").get("retired").asBoolean());
    }

    @Test
    void aDiskByHandIsKeptApartFromThoseKnown() throws Exception {
        addDisk("ISOBAR", "22-HS-0501", 500, "1").andExpect(status().isConflict())
            .andExpect(jsonPath("$.detail", containsString("is in DATUM already")));
        addDisk("ISOBAR", "H-9", 0, "null").andExpect(status().isBadRequest())
            .andExpect(jsonPath("$.detail", containsString("needs a size")));
        addDisk("ISOBAR", "H-9", 100, "200").andExpect(status().isBadRequest()).andExpect(jsonPath("$.field", is("usedBytes")));
        addDisk("ISOBAR", "H-9", 240_000_000_000L, "70000000000").andExpect(status().isCreated())
            .andExpect(jsonPath("$.line.disks[1].name", is("disk 2")));
        String id = detail("ISOBAR").get("line").get("disks").get(1).get("id").asText();
        String path = "/api/v1/computers/" + computer("ISOBAR").get("id").asText() + "/disks/";
        http.perform(delete(path + "isobar").with(csrf().asHeader())).andExpect(status().isConflict())
            .andExpect(jsonPath("$.detail", containsString("attached right now")));
        http.perform(delete(path + id).with(csrf().asHeader())).andExpect(status().isOk()).andExpect(jsonPath("$.line.disks", hasSize(1)));
    }

    @Test
    void aReportIsReviewedThenAcceptedAndKeptAsHistory() throws Exception {
        String first = report("KIOSK", "K-1", 100_000_000);
        JsonNode review = review(first);
        assertEquals("new-computer", review.get("changes").get(0).get("kind").asText());
        assertTrue(read("/api/v1/computers").get("computers").findValuesAsText("name").stream().noneMatch("KIOSK"::equals),
            "nothing changed yet");
        imports("accept", first, "basis=" + review.get("basis").asText()).andExpect(status().isOk());
        assertEquals(100_000_000, computer("KIOSK").get("disks").get(0).get("usedBytes").asLong());
        JsonNode learnt = detail("KIOSK").get("disks").get(0).get("learnt");
        assertEquals("assumed", learnt.get("basis").asText());
        assertEquals(55_000_000, learnt.get("likelyBytes").asLong());
        assertTrue(detail("DATUM").get("disks").get(0).get("learnt").isNull(), "an attached disk is sampled instead");
        assertEquals("F12", detail("KIOSK").get("suggestedKey").asText(), "suggested by maker, and not filled in");
        assertEquals("", detail("KIOSK").get("form").get("bootKey").asText());

        String fuller = report("KIOSK", "K-1", 300_000_000);
        JsonNode second = review(fuller);
        assertEquals("Partition 1: used bytes went up, they were 100 MB and are now 300 MB.",
            second.get("changes").get(0).get("sentence").asText());
        imports("accept", fuller, "basis=" + review.get("basis").asText()).andExpect(status().isConflict())
            .andExpect(jsonPath("$.type", endsWith("changed-meanwhile")));
        imports("accept", fuller, "basis=" + second.get("basis").asText()).andExpect(status().isOk());
        assertEquals(List.of(100_000_000L, 300_000_000L),
            detail("KIOSK").get("disks").get(0).get("readings").findValues("usedBytes").stream().map(JsonNode::asLong).toList());

        JsonNode swap = review(report("KIOSK", "K-2", 1));
        assertEquals("disk-swapped", swap.get("changes").get(0).get("kind").asText());
        assertTrue(swap.get("changes").get(0).get("grave").asBoolean());
        imports("accept", report("KIOSK", "K-2", 1), "basis=" + swap.get("basis").asText()).andExpect(status().isOk());
        JsonNode kiosk = detail("KIOSK");
        assertEquals(1, kiosk.get("line").get("disks").size());
        assertEquals(2, kiosk.get("disks").size(), "the old disk stays, marked as removed");
        assertNotEquals(0,
            kiosk.get("disks").findValuesAsText("removedAt").stream().filter(at -> !at.equals("null") && !at.isEmpty()).count());
        http.perform(get("/api/v1/journal"))
            .andExpect(jsonPath("$.lines[*].sentence", hasItem(containsString("M K-1, 1.00 GB was swapped for M K-2, 1.00 GB."))));
    }

    /** Reported first, attached in a dock of another computer later: it was a second disk, with none of its images. */
    @Test
    void aReportedDiskAndTheSameAttachedLaterAreOne() throws Exception {
        String text = report("CLINOMETER", "T-1", 100_000_000);
        imports("accept", text, "basis=" + review(text).get("basis").asText()).andExpect(status().isOk());
        String id = computer("CLINOMETER").get("disks").get(0).get("id").asText();
        HostDisk docked = new HostDisk("m-t-1", "m-t-1-at-7", "/dev/sdb", new DiskIdentity("Dock", "T-1", 1_000_000_000), "usb", "usb1/1-4",
            1);
        SeenDisk seen = docked.seen();
        assertEquals(new DiskRegister.Resolution.Known(id), new DiskRegister(disks.entries(), Map.of(), List.of(seen)).resolve(seen));
        HostComputer datum = machine.devices().computers().stream().filter(each -> each.name().equals("DATUM")).findFirst().orElseThrow();
        inventory.read(datum, docked.as(id), 3, new AttachedDisks.Found(Optional.empty(), "not read in this test"));
        assertEquals(1, computer("CLINOMETER").get("disks").size());
        assertEquals("M", computer("CLINOMETER").get("disks").get(0).get("model").asText(),
            "what the dock calls it does not replace its own model");
        assertEquals(2, computer("DATUM").get("disks").size(), "a disk in a dock stays its own computer's");
    }

    /** A disk without a serial went by its path, and by the first match of its size. */
    @Test
    void aDiskThatHidesItsSerialIsNotReadUntilAPersonSaysWhichItIs() throws Exception {
        var adapter = switchboard;
        adapter.turn("adapter:contour-2", true);
        try {
            allDisksAreRead();
            JsonNode untold = read("/api/v1/computers").get("untold");
            assertEquals(1, untold.size(), untold.toString());
            assertEquals(List.of("contour-2"), untold.get(0).get("maybe").findValuesAsText("diskId"),
                "of its size, and not here under its own name");
            assertTrue(!computer("CONTOUR").get("disks").get(1).get("attached").asBoolean());
            FaultException refused = assertThrows(FaultException.class, () -> devices.survey("contour-2", SurveyChoice.USED));
            assertTrue(refused.getMessage().startsWith("It cannot be told whether the disk in the adapter is this disk."),
                refused.getMessage());
            String attachment = untold.get(0).get("attachment").asText();
            told(attachment, "datum-2").andExpect(status().isConflict());
            told(attachment, "contour-2").andExpect(status().isOk()).andExpect(jsonPath("$.untold", hasSize(0)));
            assertTrue(computer("CONTOUR").get("disks").get(1).get("attached").asBoolean());
            assertEquals("22-HL-4096", computer("CONTOUR").get("disks").get(1).get("serial").asText(),
                "the adapter hides it, the record keeps it");
            assertEquals(4096, devices.survey("contour-2", SurveyChoice.USED).sectorBytes());
            adapter.turn("adapter:contour-2", false);
            adapter.turn("adapter:contour-2", true);
            allDisksAreRead();
            assertEquals(1, read("/api/v1/computers").get("untold").size(), "what was said holds as long as it stays plugged in");
        } finally {
            adapter.turn("adapter:contour-2", false);
            allDisksAreRead();
        }
        assertTrue(computer("CONTOUR").get("disks").get(1).get("attached").asBoolean());
    }

    /** Images, drives kept for it, plans and what was tried on it were lost to a computer that got another name. */
    @Test
    void renamingAComputerBreaksNoLink() throws Exception {
        JsonNode before = detail("PLUMB");
        String disk = before.get("line").get("disks").get(0).get("id").asText();
        keptFor("PLUMB");
        save(before, "name", "SEXTANT").andExpect(status().isOk());
        assertEquals("SEXTANT", drive("peg-1").get("form").get("onlyFor").get(0).asText());
        List<String> computers = read("/api/v1/plans").findValuesAsText("computer");
        assertTrue(computers.contains("SEXTANT") && !computers.contains("PLUMB"), computers.toString());
        assertEquals(disk, computer("SEXTANT").get("disks").get(0).get("id").asText());
        save(detail("SEXTANT"), "name", "PLUMB").andExpect(status().isOk());
        keptFor();
    }

    @Test
    void whatCannotBeTakenIsRefusedByLine() throws Exception {
        imports("review", "{\"format\": \"granary-inventory\", \"version\": 1,\n \"computers\": 7}", "").andExpect(status().isBadRequest())
            .andExpect(jsonPath("$.detail", containsString("line 2")));
        imports("review", "{\"blockdevices\": []}", "").andExpect(status().isBadRequest())
            .andExpect(jsonPath("$.detail", containsString("Fill in the computer's name")));
        imports("review", "{\"blockdevices\": []}", "computer=EMPTY").andExpect(status().isOk());
        imports("review", "x".repeat(33 << 20), "").andExpect(status().isPayloadTooLarge())
            .andExpect(jsonPath("$.detail", containsString("longer than 32 MiB")));
        String twins = report("KIOSK2", "", 1).replace("[\n{", "[\n{\"model\": \"M\", \"sizeBytes\": 1000000000, \"partitions\": []},\n{");
        JsonNode review = review(twins);
        assertEquals(3, review.get("objections").get(0).get("line").asInt());
        imports("accept", twins, "basis=" + review.get("basis").asText()).andExpect(status().isConflict())
            .andExpect(jsonPath("$.detail", containsString("cannot be told apart")));
    }

    @Test
    void scriptsAndSchemaAreThereToTakeAway() throws Exception {
        for (String name : List.of("granary-inventory.sh", "granary-inventory.ps1", "inventory.schema.json")) {
            http.perform(get("/api/v1/imports/downloads/" + name)).andExpect(status().isOk())
                .andExpect(header().string("Content-Disposition", "attachment; filename=\"" + name + "\""));
        }
        http.perform(get("/api/v1/imports/downloads/application.yaml")).andExpect(status().isNotFound());
        http.perform(get("/api/v1/imports/downloads/..%2fapplication.yaml")).andExpect(status().is4xxClientError());
    }

    @Test
    @WithMockUser(username = "manager", roles = "VIEWER")
    void aViewerLooksOnly() throws Exception {
        http.perform(get("/api/v1/computers")).andExpect(status().isOk())
            .andExpect(jsonPath("$.computers[?(@.name=='DATUM')].disks[*]", hasSize(2)));
        imports("review", report("X", "1", 1), "").andExpect(status().isForbidden());
        http.perform(post("/api/v1/computers/read-again").with(csrf().asHeader())).andExpect(status().isForbidden());
    }
}
