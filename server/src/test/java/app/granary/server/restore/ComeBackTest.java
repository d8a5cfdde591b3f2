package app.granary.server.restore;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.is;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.Map;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;

/** Over the simulated office: bytes are really written onto files that stand for disks. */
@WithMockUser(username = "technician", roles = "TECHNICIAN")
class ComeBackTest extends ComeBackFixture {
    @Test
    void anImageWithoutAPartitionSaysSoForEver() throws Exception {
        String id = image("tripod", "TRIPOD-without-4", 4);
        assertEquals("partly: without recovery", read("/api/v1/images/" + id).get("image").get("partly").asText());
        JsonNode facts = read("/api/v1/images/" + id + "/facts");
        assertEquals(List.of("true", "true", "true", "false"), facts.get("partitions").findValuesAsText("held"));
        JsonNode line = StreamSupport.stream(read("/api/v1/computers").get("computers").spliterator(), false)
            .filter(each -> each.get("name").asText().equals("TRIPOD")).findFirst().orElseThrow();
        assertFalse(line.get("lastImageAt").asText().equals(read("/api/v1/images/" + id).get("image").get("madeAt").asText()),
            "it is no image of the whole disk");
    }

    @Test
    void aBadDayFromLayoutToSignature() throws Exception {
        String image = image("tripod", "TRIPOD-bad-day");
        JsonNode layout = answer(send("/api/v1/restore/layout", order(image, "spare-2", "grow", "")));
        assertEquals(0, layout.get("refusals").size(), layout.toString());
        assertEquals(0, layout.get("unallocatedBytes").asLong());
        assertEquals(500_107_862_016L, layout.get("targetBytes").asLong());
        assertTrue(layout.get("runbook").get("loss").asText().startsWith("Everything on the target is erased. TRIPOD is back as of"));
        JsonNode kept = answer(send("/api/v1/restore/layout", order(image, "spare-2", "keep", "")));
        assertTrue(kept.get("unallocatedBytes").asLong() > 379_000_000_000L);
        JsonNode tooSmall = answer(send("/api/v1/restore/layout", order(image, "spare-3", "keep", "")));
        assertTrue(tooSmall.get("refusals").toString().contains("needs at least") && !tooSmall.get("fits").asBoolean()
            && tooSmall.get("runbook").isNull(), tooSmall.toString());
        // the wrong serial, the drive with images, the disk Granary runs from
        send("/api/v1/restore", order(image, "spare-2", "grow", "0000")).andExpect(status().isConflict())
            .andExpect(jsonPath("$.field", is("confirmation"))).andExpect(jsonPath("$.detail", containsString("Nothing was written")));
        send("/api/v1/restore", order(image, "drive-peg-1", "grow", "0001")).andExpect(status().isConflict());
        send("/api/v1/restore", order(image, "disk-datum-1", "grow", "0501")).andExpect(status().isConflict())
            .andExpect(jsonPath("$.detail", containsString("is in use")));
        String id = answer(send("/api/v1/restore", order(image, "spare-2", "grow", "0560"))).get("id").asText();
        JsonNode done = restoration(id);
        assertEquals("done", done.get("state").asText(), done.toString());
        assertTrue(done.get("outcome").asText().contains("read back and equal"), done.toString());
        assertTrue(read("/api/v1/targets/spare-2").get("holds").toString().contains("partition 1"));
        assertTrue(read("/api/v1/targets").findValues("holds").stream().allMatch(JsonNode::isEmpty), "the list reads nothing of them");
        send("/api/v1/restore/" + id + "/sign", Map.of("checks", List.of("Log-in works"), "note", ""))
            .andExpect(status().isUnprocessableEntity()).andExpect(jsonPath("$.detail", containsString("Not looked at yet")));
        send("/api/v1/restore/" + id + "/sign", Map.of("checks", json.convertValue(done.get("checks"), List.class), "note", "all well"))
            .andExpect(status().isNoContent());
        assertEquals(5, read("/api/v1/images/" + image).get("image").get("proof").asInt(), "its proof is raised to booted");
        assertTrue(answer(send("/api/v1/restore/runbook", Map.of("imageId", image))).get("sentence").asText()
            .contains("granary-runbooks/TRIPOD-bad-day-runbook.html"));
        renamed("TRIPOD", "TRIPOD-NORTH");
        assertEquals("TRIPOD-NORTH", read("/api/v1/images/" + image).get("image").get("computer").asText());
        assertEquals("TRIPOD-NORTH", restoration(id).get("forComputer").asText());
        assertTrue(answer(send("/api/v1/restore/layout", order(image, "spare-2", "grow", ""))).get("runbook").get("loss").asText()
            .contains("TRIPOD-NORTH is back"));
        renamed("TRIPOD-NORTH", "TRIPOD");
        whatMattersOnItIsOffered(id);
    }

    private void whatMattersOnItIsOffered(String id) throws Exception {
        described("TRIPOD", "checks", "The survey of last week opens\n\n  The plotter answers \n");
        List<String> checks = new java.util.ArrayList<>();
        restoration(id).get("checks").forEach(each -> checks.add(each.asText()));
        assertTrue(checks.containsAll(List.of("The survey of last week opens", "The plotter answers")), checks.toString());
        described("TRIPOD", "checks", "");
    }

    @Test
    void aTargetThatDiesIsCarriedOnAndAnotherInItsPlaceRefused() throws Exception {
        String image = image("theodolite", "THEODOLITE-dies");
        fault("swap:spare-1", true);
        try {
            send("/api/v1/restore", order(image, "spare-1", "keep", "8-SP")).andExpect(status().isConflict())
                .andExpect(jsonPath("$.detail", containsString("serial 7K-0198-SPX")));
        } finally {
            fault("swap:spare-1", false);
        }
        fault("slow:spare-1", true);
        String id;
        try {
            id = answer(send("/api/v1/restore", order(image, "spare-1", "keep", "8-sp"))).get("id").asText();
            send("/api/v1/restore", order(image, "spare-1", "grow", "8-sp")).andExpect(status().isConflict())
                .andExpect(jsonPath("$.detail", containsString("is being overwritten already")));
            Thread.sleep(700);
            fault("unplug:spare-1", true);
        } finally {
            fault("slow:spare-1", false);
        }
        JsonNode failed = restoration(id);
        assertEquals("failed", failed.get("state").asText(), failed.toString());
        assertTrue(failed.get("outcome").asText().contains("Spare 1") || failed.get("outcome").asText().contains("not attached"),
            failed.toString());
        fault("unplug:spare-1", false);
        send("/api/v1/restore/" + id + "/carry-on", Map.of("confirmation", "8-SP")).andExpect(status().isNoContent());
        assertEquals("done", restoration(id).get("state").asText());
        send("/api/v1/restore", order(image, "spare-1", "grow", "8-SP")).andExpect(status().isConflict())
            .andExpect(
                jsonPath("$.detail", containsString("is restored for THEODOLITE from THEODOLITE-dies, and nobody has signed it yet")));
        send("/api/v1/restore/" + id + "/retire", Map.of()).andExpect(status().isNoContent());
        assertEquals("", StreamSupport.stream(read("/api/v1/targets").spliterator(), false)
            .filter(each -> each.get("id").asText().equals("spare-1")).findFirst().orElseThrow().get("refusal").asText());
    }

    @Test
    void aSpareIsMadeOfADiskAndCountsOnTheCard() throws Exception {
        ObjectNode copy = order("", "spare-3", "keep", "4-SM").put("diskId", "gnomon");
        copy.remove("imageId");
        fault("worn:gnomon", true); // its unreadable sectors were zeros on the spare untold, and the comparison read the same zeros
        String id = answer(send("/api/v1/restore", copy)).get("id").asText();
        assertEquals("done", restoration(id).get("state").asText());
        fault("worn:gnomon", false);
        String flaw = "1.54 kB of the disk could not be read, in 3 places, and are zeros on it";
        assertEquals(flaw, restoration(id).get("flaw").asText());
        assertTrue(restoration(id).get("outcome").asText().contains(flaw));
        assertTrue(restoration(id).get("lost").size() > 0, "the files that lie there");
        assertTrue(read("/api/v1/cards").toString().contains("Of the spare of card: " + flaw));
        send("/api/v1/restore/" + id + "/place", Map.of("place", "in the fire safe")).andExpect(status().isNoContent());
        String cards = read("/api/v1/cards").toString();
        assertTrue(cards.contains("Quickest: put Spare 3, serial 7K-0064-SM, which lies in the fire safe"), cards);
        send("/api/v1/targets/spare-3/prepare",
            Map.of("scheme", "gpt", "fileSystem", "exfat", "name", "PEG-4", "rescueBytes", 0, "confirmation", "4-SM"))
            .andExpect(status().isConflict())
            .andExpect(jsonPath("$.detail", containsString("is the spare of GNOMON")));
        send("/api/v1/restore/" + id + "/retire", Map.of()).andExpect(status().isNoContent());
        assertFalse(read("/api/v1/cards").toString().contains("Quickest"));
    }

    @Test
    void aRescueStickIsWrittenTriedAndKnown() throws Exception {
        String id = answer(send("/api/v1/rescue-media", Map.of("name", "KEY-A", "kind", "stick", "serial", "TS-16-000A", "contents", "",
            "starts", List.of(), "place", "drawer", "spareSet", false))).get("id").asText();
        assertEquals("3", "" + read("/api/v1/rescue-media").get("files").size());
        send("/api/v1/rescue-media/" + id + "/write", Map.of("fileId", "larch-rescue-14.iso", "targetId", "key-a", "confirmation", "000A"))
            .andExpect(status().isUnprocessableEntity()).andExpect(jsonPath("$.detail", containsString("cut short")));
        send("/api/v1/rescue-media/" + id + "/write", Map.of("fileId", "larch-rescue-13.iso", "targetId", "key-c", "confirmation", "000C"))
            .andExpect(status().isConflict()).andExpect(jsonPath("$.detail", containsString("another stick")));
        String c = answer(send("/api/v1/rescue-media", Map.of("name", "KEY-C", "kind", "stick", "serial", "TS-16-000C", "contents", "x",
            "starts", List.of("BIOS"), "place", "", "spareSet", true))).get("id").asText();
        send("/api/v1/rescue-media/" + c + "/write", Map.of("fileId", "larch-rescue-13.iso", "targetId", "key-c", "confirmation", "000C"))
            .andExpect(status().isConflict()).andExpect(jsonPath("$.detail", containsString("is the source")));
        fault("locked:key-a", true);
        send("/api/v1/rescue-media/" + id + "/write", Map.of("fileId", "larch-rescue-13.iso", "targetId", "key-a", "confirmation", "000A"))
            .andExpect(status().isConflict()).andExpect(jsonPath("$.detail", containsString("write-protected")));
        fault("locked:key-a", false);
        send("/api/v1/rescue-media/" + id + "/tests", Map.of("computer", "TRIPOD", "started", true, "note", ""))
            .andExpect(status().isConflict());
        answer(send("/api/v1/rescue-media/" + id + "/write",
            Map.of("fileId", "larch-rescue-13.iso", "targetId", "key-a", "confirmation", "000a")));
        JsonNode page = until("/api/v1/rescue-media", now -> now.get("media").get(0).get("contents").asText().equals("LARCH_RESCUE_13"));
        assertEquals("[\"BIOS\",\"UEFI\"]", page.get("media").get(0).get("starts").toString());
        assertTrue(page.get("media").get(0).get("due").asText().startsWith("It was never tried"));
        assertTrue(read("/api/v1/today").toString().contains("KEY-A is to be tried"));
        send("/api/v1/rescue-media/" + id + "/tests", Map.of("computer", "TRIPOD", "started", true, "note", ""))
            .andExpect(status().isNoContent());
        assertTrue(read("/api/v1/cards").toString().contains("KEY-A, drawer"));
        http.perform(get("/api/v1/rescue-media/" + id + "/code.svg")).andExpect(status().isOk());
        itsOwnImageGoesOntoAnother(id, c);
        send("/api/v1/rescue-media/" + c + "/retire", Map.of("why", "worn out")).andExpect(status().isNoContent());
        send("/api/v1/rescue-media/" + id + "/retire", Map.of("why", "test over")).andExpect(status().isNoContent());
    }

    /** Sticks wear out: a stick's own image, kept and written onto another for the spare set, is the same to the byte. */
    private void itsOwnImageGoesOntoAnother(String id, String c) throws Exception {
        answer(send("/api/v1/rescue-media/" + id + "/image", Map.of()));
        JsonNode page = until("/api/v1/rescue-media", now -> !now.get("media").get(0).get("imageFile").asText().isEmpty());
        String digest = page.get("media").get(0).get("imageDigest").asText();
        assertTrue(page.get("files").toString().contains("\"imageOf\":\"KEY-A\""), page.get("files").toString());
        answer(send("/api/v1/rescue-media/" + c + "/write", Map.of("fileId", "KEY-A.img", "targetId", "key-c", "confirmation", "000C")));
        until("/api/v1/rescue-media", now -> now.get("media").get(1).get("contents").asText().equals("LARCH_RESCUE_13"));
        answer(send("/api/v1/rescue-media/" + c + "/image", Map.of()));
        assertEquals(digest, until("/api/v1/rescue-media", now -> !now.get("media").get(1).get("imageFile").asText().isEmpty()).get("media")
            .get(1).get("imageDigest").asText());
        fault("unplug:key-c", true);
        send("/api/v1/rescue-media/" + c + "/image", Map.of()).andExpect(status().isConflict())
            .andExpect(jsonPath("$.detail", containsString("is not plugged in")));
        fault("unplug:key-c", false);
    }

    @Test
    void aRolloutHoldsItsImageAndTicksOffItsComputers() throws Exception {
        String image = image("isobar", "FIELD-reference");
        List<Map<String, String>> members = List.of(Map.of("computer", "ROD-1", "targetId", "rod-1"),
            Map.of("computer", "ROD-4", "targetId", "rod-4"));
        send("/api/v1/rollouts", Map.of("name", "twice", "imageId", image, "members", List.of(members.get(0), members.get(0))))
            .andExpect(status().isUnprocessableEntity());
        String id = answer(send("/api/v1/rollouts", Map.of("name", "new field computers", "imageId", image, "members", members))).get("id")
            .asText();
        JsonNode rollout = read("/api/v1/rollouts").get(0);
        assertEquals("", rollout.get("members").get(0).get("refusal").asText());
        assertFalse(rollout.get("members").get(1).get("refusal").asText().isEmpty(), "ROD-4's disk is too small");
        assertTrue(read("/api/v1/retention").toString().contains("the rollout \\\"new field computers\\\" is not ended"));
        answer(send("/api/v1/rollouts/" + id + "/start", Map.of("computer", "ROD-1", "confirmation", "1-R1")));
        JsonNode done = until("/api/v1/rollouts", now -> now.get(0).get("members").get(0).get("state").asText().equals("done"));
        JsonNode line = restoration(done.get(0).get("members").get(0).get("id").asText());
        assertTrue(line.get("checks").toString().contains("Made unique: its computer name"));
        send("/api/v1/restore/" + line.get("id").asText() + "/sign",
            Map.of("checks", json.convertValue(line.get("checks"), List.class), "note", "")).andExpect(status().isNoContent());
        send("/api/v1/rollouts/" + id + "/end", Map.of()).andExpect(status().isNoContent());
        assertTrue(read("/api/v1/rollouts").get(0).get("sentence").asText().startsWith("1 of 2 signed; ended."));
        assertFalse(read("/api/v1/retention").toString().contains("is not ended"));
    }

    /**
     * What an encrypted image holds could not be told without its passphrase, so every computer of its rollout was refused, and the page
     * asked for none.
     */
    @Test
    void aRolloutOfAnEncryptedImageTakesItsPassphrase() throws Exception {
        ObjectNode capture = json.createObjectNode().put("diskId", "gnomon").put("destinationId", "cairn").put("name", "GNOMON-rolled")
            .put("codec", "zstd").put("allBlocks", false).put("keepSwap", false).put("passphrase", "theodolite-42");
        capture.putArray("without");
        String run = answer(send("/api/v1/runs", capture)).get("id").asText();
        String image = until("/api/v1/runs/" + run, now -> !now.get("endedAt").isNull()).get("imageId").asText();
        String id = answer(send("/api/v1/rollouts",
            Map.of("name", "plotters", "imageId", image, "members", List.of(Map.of("computer", "ROD-2", "targetId", "rod-2"))))).get("id")
            .asText();
        JsonNode line = StreamSupport.stream(read("/api/v1/rollouts").spliterator(), false)
            .filter(each -> each.get("id").asText().equals(id)).findFirst().orElseThrow();
        assertTrue(line.get("encrypted").asBoolean());
        assertEquals("", line.get("members").get(0).get("refusal").asText());
        String path = "/api/v1/rollouts/" + id + "/start";
        send(path, Map.of("computer", "ROD-2", "confirmation", "2-R2", "passphrase", "theodolite-43"))
            .andExpect(status().is4xxClientError()).andExpect(jsonPath("$.detail", containsString("passphrase")));
        send(path, Map.of("computer", "ROD-2", "confirmation", "2-R2")).andExpect(status().isUnprocessableEntity())
            .andExpect(jsonPath("$.detail", containsString("Enter its passphrase")));
        String restore = answer(send(path, Map.of("computer", "ROD-2", "confirmation", "2-R2", "passphrase", "theodolite-42"))).get("id")
            .asText();
        assertEquals("done", restoration(restore).get("state").asText());
        send("/api/v1/rollouts/" + id + "/end", Map.of()).andExpect(status().isNoContent());
    }

    @Test
    void aDriveIsMadeReadyOnlyWhenItIsConfirmed() throws Exception {
        Map<String, Object> how = Map.of("scheme", "gpt", "fileSystem", "exfat", "name", "PEG-4", "rescueBytes", 0, "confirmation", "0560");
        send("/api/v1/targets/drive-peg-2/prepare", how).andExpect(status().isConflict());
        send("/api/v1/targets/spare-1/prepare", how).andExpect(status().isConflict()).andExpect(jsonPath("$.field", is("confirmation")));
        String run = answer(send("/api/v1/targets/spare-2/prepare", how)).get("runId").asText();
        JsonNode ended = until("/api/v1/runs/" + run, now -> !now.get("endedAt").isNull());
        assertEquals("done", ended.get("state").asText(), ended.toString());
        assertTrue(read("/api/v1/targets/spare-2").get("holds").toString().contains("exfat"));
    }

    @Test
    void anEncryptedImageAsksForItsPassphraseAndTellsAWrongOne() throws Exception {
        ObjectNode capture = json.createObjectNode().put("diskId", "gnomon").put("destinationId", "cairn").put("name", "GNOMON-secret")
            .put("codec", "zstd").put("allBlocks", false).put("keepSwap", false).put("passphrase", "theodolite-42");
        capture.putArray("without");
        String run = answer(send("/api/v1/runs", capture)).get("id").asText();
        String image = until("/api/v1/runs/" + run, now -> !now.get("endedAt").isNull()).get("imageId").asText();
        send("/api/v1/restore/layout", order(image, "spare-2", "keep", "")).andExpect(status().isUnprocessableEntity())
            .andExpect(jsonPath("$.detail", containsString("Enter its passphrase")));
        send("/api/v1/restore/layout", order(image, "spare-2", "keep", "").put("passphrase", "theodolite-43"))
            .andExpect(status().is4xxClientError()).andExpect(jsonPath("$.detail", containsString("passphrase")));
        assertEquals(0, answer(send("/api/v1/restore/layout", order(image, "spare-2", "keep", "").put("passphrase", "theodolite-42")))
            .get("refusals").size());
    }

    @Test
    void rehearsalsAreScheduledOrNot() throws Exception {
        assertEquals(0, read("/api/v1/rehearsals/schedule").get("days").asInt());
        http.perform(
            put("/api/v1/rehearsals/schedule").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content("{\"days\":400}"))
            .andExpect(status().isBadRequest());
        http.perform(
            put("/api/v1/rehearsals/schedule").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content("{\"days\":0}"))
            .andExpect(status().isOk());
    }

    @Test
    @Tag("virtual-machine")
    void aRehearsalKeepsAPictureOfWhatItStarted() throws Exception {
        String image = image("plumb", "PLUMB-rehearsed");
        String id = answer(send("/api/v1/rehearsals/of/" + image, Map.of())).get("id").asText();
        JsonNode ended = until("/api/v1/rehearsals/of/" + image, now -> !now.get(0).get("endedAt").isNull()).get(0);
        assertTrue(ended.get("ok").asBoolean(), ended.toString());
        assertEquals(4, read("/api/v1/images/" + image).get("image").get("proof").asInt());
        assertTrue(ended.get("picture").asBoolean(), ended.toString());
        http.perform(get("/api/v1/rehearsals/" + id + "/picture")).andExpect(status().isOk());
    }
}
