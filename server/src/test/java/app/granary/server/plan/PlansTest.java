package app.granary.server.plan;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.endsWith;
import static org.hamcrest.Matchers.hasItem;
import static org.hamcrest.Matchers.hasSize;
import static org.hamcrest.Matchers.is;
import static org.hamcrest.Matchers.not;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.delete;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.server.ServerTestBase;
import app.granary.engine.shell.ShellPlan;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.io.StringReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.temporal.Temporal;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.StreamSupport;
import net.fortuna.ical4j.data.CalendarBuilder;
import net.fortuna.ical4j.model.Calendar;
import net.fortuna.ical4j.model.component.VEvent;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.ResultActions;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

@WithMockUser(username = "technician", roles = "TECHNICIAN")
class PlansTest extends ServerTestBase {
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;

    @BeforeEach
    void disksAreRead() throws Exception {
        for (int i = 0; i < 600 && json.readTree(content(http.perform(get("/api/v1/computers")))).get("reading").asBoolean(); i++) {
            Thread.sleep(100);
        }
    }

    private static String content(ResultActions result) throws Exception {
        return result.andReturn().getResponse().getContentAsString(StandardCharsets.UTF_8);
    }

    private ResultActions send(MockHttpServletRequestBuilder request, Object body) throws Exception {
        return http.perform(request.with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content(body instanceof String text ? text : json.writeValueAsString(body)));
    }

    private ObjectNode proposal(String disk, String name) throws Exception {
        ObjectNode form = (ObjectNode) json
            .readTree(content(http.perform(get("/api/v1/plans/proposal?diskId=" + disk)).andExpect(status().isOk())));
        form.put("name", name);
        form.putArray("destinations").addObject().put("id", "peg-1").put("name", "PEG-1");
        return form;
    }

    private JsonNode made(String disk, String name) throws Exception {
        return json.readTree(content(send(post("/api/v1/plans"), proposal(disk, name)).andExpect(status().isCreated())));
    }

    private ResultActions change(JsonNode plan, Consumer<ObjectNode> how) throws Exception {
        ObjectNode form = plan.get("form").deepCopy();
        how.accept(form);
        return send(put("/api/v1/plans/" + plan.get("id").asText()).header("If-Match", "\"" + plan.get("version").asLong() + "\""), form);
    }

    @Test
    void theOfficesPlansAreThereWithWhatIsDue() throws Exception {
        JsonNode all = json.readTree(content(http.perform(get("/api/v1/plans")).andExpect(status().isOk())));
        JsonNode tripod = StreamSupport.stream(all.spliterator(), false).filter(p -> p.get("name").asText().equals("TRIPOD, field"))
            .findFirst().orElseThrow();
        assertEquals("overdue", tripod.get("state").asText());
        assertTrue(tripod.get("overdueDays").asLong() >= 34, "41 days in use, first due on its next Tuesday: " + tripod);
        assertEquals("PEG-2, CAIRN, whichever ends first", tripod.get("drives").asText());
    }

    @Test
    void aProposalChoosesNothingThatCanHurt() throws Exception {
        http.perform(get("/api/v1/plans/proposal?diskId=tripod")).andExpect(jsonPath("$.destinations", hasSize(0)))
            .andExpect(jsonPath("$.rhythm.kind", is("by-hand")))
            .andExpect(jsonPath("$.afterwards", is("nothing"))).andExpect(jsonPath("$.source.without", hasSize(0)))
            .andExpect(jsonPath("$.checklist", hasItem(containsString("recovery key"))))
            .andExpect(jsonPath("$.mailTo", hasSize(0)));
        http.perform(get("/api/v1/plans/proposal?diskId=gnomon"))
            .andExpect(jsonPath("$.checklist", hasItem(containsString("controller's own data"))));
        http.perform(get("/api/v1/plans/proposal?diskId=nothing")).andExpect(status().isNotFound());
    }

    @Test
    void aPlanIsReviewedSavedChangedAndRemembersWhoChangedWhat() throws Exception {
        send(post("/api/v1/plans/review"), proposal("gnomon", "Card")).andExpect(status().isOk())
            .andExpect(jsonPath("$.sentence", containsString("GNOMON's card (Pike CF, serial CF-0077-GN, 500 MB) is read")))
            .andExpect(jsonPath("$.exampleName", containsString("GNOMON-card-")))
            .andExpect(jsonPath("$.problems[*].field", hasItem("destinations")));
        JsonNode plan = made("gnomon", "Card by hand");
        JsonNode changed = json.readTree(content(change(plan,
            form -> form.put("codec", "xz").put("level", 6).putObject("rhythm").put("kind", "monthly").put("every", 1).put("day", 31)
                .putArray("days"))
            .andExpect(status().isOk()).andExpect(jsonPath("$.versions", hasSize(2)))
            .andExpect(jsonPath("$.versions[0].changes", hasItem("Compression: zstd, level 3 became xz, level 6")))
            .andExpect(jsonPath("$.versions[0].changes", hasItem("How often: only when asked for became on the last day of every month")))
            .andExpect(jsonPath("$.review.dueNights", hasSize(4)))));
        change(plan, form -> form.put("codec", "gzip").put("level", 6)).andExpect(status().isPreconditionFailed())
            .andExpect(jsonPath("$.type", endsWith("changed-meanwhile")))
            .andExpect(jsonPath("$.detail", containsString("technician changed Card by hand at ")))
            .andExpect(jsonPath("$.detail", containsString("Compression: zstd, level 3 became xz, level 6")));
        change(changed, form -> {}).andExpect(status().isOk()).andExpect(jsonPath("$.versions", hasSize(2)));
        String id = plan.get("id").asText();
        send(post("/api/v1/plans/" + id + "/pause"), "{\"paused\": true}").andExpect(jsonPath("$.line.state", is("paused")))
            .andExpect(jsonPath("$.versions", hasSize(3)));
        send(post("/api/v1/plans/" + id + "/copies"), "{\"diskId\": \"plumb\"}").andExpect(status().isCreated())
            .andExpect(jsonPath("$.form.name", is("PLUMB, system disk")))
            .andExpect(jsonPath("$.form.codec", is("xz"))).andExpect(jsonPath("$.paused", is(false)));
        http.perform(delete("/api/v1/plans/" + id).with(csrf().asHeader())).andExpect(status().isNoContent());
        http.perform(get("/api/v1/plans/" + id)).andExpect(status().isNotFound());
        http.perform(get("/api/v1/journal"))
            .andExpect(jsonPath("$.lines[*].sentence", hasItem(containsString("Card by hand was removed. Its images stay."))));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "{\"name\": \" \"} | name | A plan needs a name of at most 100 characters.",
        "{\"name\": \"TRIPOD, FIELD\"} | name | There is a plan \"TRIPOD, field\" already. Choose another name, or change that one.",
        "{\"destinations\": []} | destinations | No drive is chosen. Choose at least one the image may go to.",
        "{\"destinations\": [{\"id\": \"peg-9\", \"name\": \"PEG-9\"}]} | destinations | PEG-9 is not known here any more. Choose "
            + "another drive; nothing else of the plan is lost.",
        "{\"codec\": \"zip\"} | codec | There is no codec \"zip\". Choose one of none, stored, gzip, zstd, xz.",
        "{\"level\": 40} | level | The codec zstd has no level 40. Choose 1 to 19.",
        "{\"naming\": \"{computer}\"} | naming | The naming needs {date}, or every image would have the same name. Add it, for example "
            + "at the end.",
        "{\"window\": {\"from\": \"25:00\", \"to\": \"07:00\"}} | window.from | \"25:00\" is no time of day. Write it like 18:30.",
        "{\"rhythm\": {\"kind\": \"weekly\", \"every\": 1, \"days\": [], \"day\": 1}} | rhythm | Choose at least one day of the week.",
        "{\"rhythm\": {\"kind\": \"weekly\", \"every\": 1, \"days\": [\"Freitag\"], \"day\": 1}} | rhythm | \"Freitag\" is no day of the "
            + "week. Write monday to sunday.",
        "{\"rhythm\": {\"kind\": \"days\", \"every\": 0, \"days\": [], \"day\": 1}} | rhythm | An image is due every 1 to 365 days. "
            + "Choose a number in between.",
        "{\"rhythm\": {\"kind\": \"monthly\", \"every\": 1, \"days\": [], \"day\": 32}} | rhythm | Choose a day of the month from 1 to "
            + "31; 31 is always the last one.",
        "{\"rhythm\": {\"kind\": \"often\", \"every\": 1, \"days\": [], \"day\": 1}} | rhythm | \"often\" is no rhythm. Choose by-hand, "
            + "days, weekly or monthly.",
        "{\"afterwards\": \"explode\"} | afterwards | \"explode\" is nothing that can be done with a computer. Choose nothing, off or "
            + "restart."})
    void whatCannotBeSavedIsRefusedWithItsFieldAndSentence(String change, String field, String sentence) throws Exception {
        ObjectNode form = proposal("gnomon", "Bad");
        form.setAll((ObjectNode) json.readTree(change));
        send(post("/api/v1/plans"), form).andExpect(status().is4xxClientError()).andExpect(jsonPath("$.field", is(field)))
            .andExpect(jsonPath("$.detail", is(sentence)));
    }

    private JsonNode read(String text) throws Exception {
        return json.readTree(content(send(post("/api/v1/plans/import"), java.util.Map.of("text", text)).andExpect(status().isOk())));
    }

    @Test
    void aPlanGoesOutAsAFileAfterItsSchemaAndComesBackTheSame() throws Exception {
        JsonNode plan = made("ledger", "Out and back");
        String file = content(http.perform(get("/api/v1/plans/" + plan.get("id").asText() + "/file")).andExpect(status().isOk()));
        JsonSchema schema = JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
            .getSchema(Files.readString(Path.of("../docs/plan.schema.json")));
        assertEquals(Set.of(), schema.validate(json.readTree(file)));
        Path inTheShell = Files.writeString(Files.createTempFile("plan", ".json"), file);
        ShellPlan told = ShellPlan.read(inTheShell);
        Files.delete(inTheShell);
        JsonNode form = plan.get("form");
        assertEquals(List.of(form.get("source").get("serial").asText(), form.get("codec").asText(), form.get("naming").asText()),
            List.of(told.identity().serial(), told.storage().codec().word(), told.naming().text()), "a bare shell can do it too");
        JsonNode back = read(file);
        assertEquals(plan.get("form"), back.get("form"));
        assertEquals(plan.get("id"), back.get("existingId"));
        assertEquals(0, back.get("changes").size());
        assertTrue(back.get("diskKnown").asBoolean());
        // under another name it is saved as a new plan, and goes out as the same bytes but for that name
        ObjectNode renamed = back.get("form").deepCopy();
        renamed.put("name", "Back again");
        JsonNode second = json.readTree(content(send(post("/api/v1/plans"), renamed).andExpect(status().isCreated())));
        assertEquals(file.replace("Out and back", "Back again"),
            content(http.perform(get("/api/v1/plans/" + second.get("id").asText() + "/file"))));
        // one line changed is told as one change
        assertEquals(List.of("Kept: as the office does became the last 5"),
            json.convertValue(
                read(file.replace("\"last\" : 0", "\"last\" : 5").replace("\"asOffice\" : true", "\"asOffice\" : false")).get("changes"),
                List.class));
        // every plan the office came with is a file after the schema too
        for (JsonNode each : json.readTree(content(http.perform(get("/api/v1/plans"))))) {
            assertEquals(Set.of(),
                schema.validate(json.readTree(content(http.perform(get("/api/v1/plans/" + each.get("id").asText() + "/file"))))));
        }
    }

    @Test
    void aFileFromAnotherOfficeFindsWhatItCanAndAsksForTheRest() throws Exception {
        JsonNode plan = made("ledger", "From elsewhere");
        String file = content(http.perform(get("/api/v1/plans/" + plan.get("id").asText() + "/file")));
        JsonNode renumbered = read(
            file.replace("\"diskId\" : \"ledger\"", "\"diskId\" : \"sda\"").replace("\"id\" : \"peg-1\"", "\"id\" : \"e:\""));
        assertEquals("ledger", renumbered.get("form").get("source").get("diskId").asText(), "found by model, serial and size");
        assertEquals("peg-1", renumbered.get("form").get("destinations").get(0).get("id").asText(), "found by its name");
        JsonNode unknown = read(file.replace("22-HS-0502", "99-XX-0001").replace("PEG-1", "CRATE").replace("peg-1", "crate"));
        assertEquals(List.of("CRATE"), json.convertValue(unknown.get("unknownDrives"), List.class));
        assertTrue(!unknown.get("diskKnown").asBoolean() && unknown.get("form").get("destinations").isEmpty());
        ObjectNode unmapped = unknown.get("form").deepCopy();
        ((ObjectNode) unmapped.get("source")).put("diskId", "sdz");
        send(post("/api/v1/plans"), unmapped).andExpect(status().isConflict())
            .andExpect(jsonPath("$.detail", is("There is no disk LEDGER, system disk in this office. Choose the disk the plan is for.")));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '`', value = {
        "nonsense | This file cannot be read as a plan in line 1: Unrecognized token 'nonsense': was expecting",
        "[] | This is no plan file: it does not begin with \"granaryPlan\".",
        "{\"granaryPlan\": 2, \"plan\": {\"new\": 1}} | This plan was written by a newer Granary (plan version 2); this one reads "
            + "version 1. Update Granary, then import it again.",
        "{\"granaryPlan\": 1} | This file cannot be read as a plan",
        "{\"granaryPlan\": 1, \"plan\": null} | This file holds no plan.",
        "{\"granaryPlan\": 1, \"plan\": {\"name\": \"x\", \"colour\": \"red\"}} | This file cannot be read as a plan"})
    void aFileThatIsNoPlanIsRefusedWithItsReason(String text, String sentence) throws Exception {
        send(post("/api/v1/plans/import"), java.util.Map.of("text", text)).andExpect(status().isUnprocessableEntity())
            .andExpect(jsonPath("$.detail", containsString(sentence)));
    }

    @Test
    void dueNightsGoOutAsACalendarOthersCanRead() throws Exception {
        JsonNode plan = made("isobar", "Weekly, for the calendar");
        change(plan, form -> form.put("note", "x").putObject("rhythm").put("kind", "weekly").put("every", 1).put("day", 1).putArray("days")
            .add("tuesday")).andExpect(status().isOk());
        String text = content(http.perform(get("/api/v1/plans/calendar")).andExpect(status().isOk()));
        // RFC 5545: 3.1 lines end with CRLF and are at most 75 octets; 3.6 the calendar's required properties; 3.6.1 UID and DTSTAMP in
        // every event
        assertTrue(text.startsWith("BEGIN:VCALENDAR\r\n") && text.endsWith("END:VCALENDAR\r\n"), text.substring(0, 60));
        assertTrue(
            Arrays.stream(text.split("\r\n")).allMatch(line -> line.getBytes(StandardCharsets.UTF_8).length <= 75 && !line.contains("\n")),
            text);
        assertTrue(text.contains("\r\nVERSION:2.0\r\n") && text.contains("\r\nPRODID:"));
        Calendar calendar = new CalendarBuilder().build(new StringReader(text));
        assertTrue(!calendar.validate().hasErrors(), calendar.validate().toString());
        List<VEvent> mine = calendar.getComponents("VEVENT").stream().map(VEvent.class::cast)
            .filter(event -> event.getUid().orElseThrow().getValue().startsWith(plan.get("id").asText())).collect(Collectors.toList());
        assertTrue(mine.size() >= 12 && mine.size() <= 14, "Tuesdays of a quarter: " + mine.size());
        assertEquals("Image ISOBAR, system disk", mine.get(0).getSummary().getValue());
        Temporal start = mine.get(0).getDateTimeStart().getDate();
        assertEquals(Duration.ofDays(7), Duration.between(start, mine.get(1).getDateTimeStart().getDate()));
        http.perform(delete("/api/v1/plans/" + plan.get("id").asText()).with(csrf().asHeader())).andExpect(status().isNoContent());
    }

    @Test
    void aViewerReadsPlansAndChangesNone() throws Exception {
        JsonNode plan = made("plumb", "Looked at");
        http.perform(get("/api/v1/plans/" + plan.get("id").asText()).with(user("manager").roles("VIEWER"))).andExpect(status().isOk())
            .andExpect(jsonPath("$.review.sentence", not("")));
        http.perform(delete("/api/v1/plans/" + plan.get("id").asText()).with(csrf().asHeader()).with(user("manager").roles("VIEWER")))
            .andExpect(status().isForbidden());
    }
}
