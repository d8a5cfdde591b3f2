package app.granary.server.journal;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.hasSize;
import static org.hamcrest.Matchers.is;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.asyncDispatch;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.server.ServerTestBase;
import app.granary.server.home.Keys;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.StringReader;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.List;
import java.util.Map;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.autoconfigure.jdbc.DataSourceProperties;
import org.springframework.dao.DataAccessException;
import org.springframework.http.MediaType;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.web.servlet.MockMvc;

@WithMockUser(username = "technician", roles = "TECHNICIAN")
class JournalWireTest extends ServerTestBase {
    @Value("${granary.home}")
    private String home;
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;
    @Autowired
    private JdbcTemplate worker;
    @Autowired
    private DataSourceProperties database;
    @Autowired
    private Journal journal;

    private void note(String text, boolean signOff, long corrects, int expected) throws Exception {
        http.perform(post("/api/v1/journal/notes").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content(json.writeValueAsString(Map.of("text", text, "signOff", signOff, "corrects", corrects))))
            .andExpect(status().is(expected));
    }

    private JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    private String file(String path) throws Exception {
        return http.perform(asyncDispatch(http.perform(get(path)).andReturn())).andExpect(status().isOk()).andReturn().getResponse()
            .getContentAsString(java.nio.charset.StandardCharsets.UTF_8);
    }

    /** The cells are read back by a library that knows RFC 4180. */
    @Test
    void whatIsWrittenComesBackFromTheExportsAndNothingInItComputes() throws Exception {
        String odd = "=1+1, \"quoted\",\n<b>bold</b> & más 100%";
        note(odd, false, 0, 204);
        List<CSVRecord> lines = CSVFormat.RFC4180.builder().setHeader().setSkipHeaderRecord(true).get()
            .parse(new StringReader(file("/api/v1/journal/csv?text=quoted"))).getRecords();
        assertEquals("'" + odd, lines.get(lines.size() - 1).get("sentence"));
        String[] objects = file("/api/v1/journal/jsonl?text=quoted").split("\n");
        assertEquals(odd, json.readTree(objects[objects.length - 1]).get("sentence").asText());
        assertEquals(odd, read("/api/v1/journal?text=QUOTED").get("lines").get(0).get("sentence").asText());
    }

    @Test
    void linesAreChosenByWordsAccountActionAndDay() throws Exception {
        note("a plain line about 50% of PEG-2", false, 0, 204);
        note("another about 50 of them", true, 0, 204);
        http.perform(get("/api/v1/journal").param("text", "50% of peg")).andExpect(jsonPath("$.lines", hasSize(1)))
            .andExpect(jsonPath("$.lines[0].account", is("technician")));
        http.perform(get("/api/v1/journal?action=sign-off&text=another about")).andExpect(jsonPath("$.lines", hasSize(1)));
        http.perform(get("/api/v1/journal?to=2001-01-01")).andExpect(jsonPath("$.lines", hasSize(0)));
        http.perform(get("/api/v1/journal?from=2001-01-01&account=technician&text=another about"))
            .andExpect(jsonPath("$.lines", hasSize(1)));
        assertTrue(read("/api/v1/journal/choices").get("actions").toString().contains("sign-off"));
        http.perform(get("/api/v1/journal/report?from=2026-02-02&to=2026-02-01")).andExpect(status().isBadRequest())
            .andExpect(jsonPath("$.detail", containsString("end before it begins")));
        assertTrue(read("/api/v1/journal/report?from=2001-01-01&to=2100-01-01").get("lines").size() > 1);
    }

    /** What is shown of a day is what a search of that day alone finds. */
    @Test
    void theLastSixWeeksAreCountedDayByDay() throws Exception {
        note("a strip of days", false, 0, 204);
        journal.add("ada", "capture", "", Journal.Result.FAILED, "a strip of days, and one that failed");
        JsonNode days = read("/api/v1/journal/days?text=a strip of days");
        JsonNode last = days.get(days.size() - 1);
        assertEquals(List.of(42, 2, 1), List.of(days.size(), last.get("lines").asInt(), last.get("failed").asInt()));
        assertEquals(0, days.get(0).get("lines").asInt());
        String day = last.get("day").asText();
        assertEquals(2, read("/api/v1/journal?text=a strip of days&from=" + day + "&to=" + day).get("lines").size());
        assertEquals(1, read("/api/v1/journal/days?text=a strip of days&account=ada").get(41).get("lines").asInt());
    }

    @Test
    void aCorrectionIsANewLineThatNamesTheOld() throws Exception {
        note("PEG-1 to the safe", false, 0, 204);
        long wrong = read("/api/v1/journal?text=to the safe").get("lines").get(0).get("id").asLong();
        note("it was PEG-2", false, wrong, 204);
        JsonNode line = read("/api/v1/journal?action=correction").get("lines").get(0);
        assertEquals(wrong, line.get("corrects").asLong());
        note("of nothing", false, 99_999_999, 404);
        note(" ", false, 0, 400);
    }

    @Test
    void theProgramItselfCannotChangeOrRemoveALine() {
        journal.add("ada", "note", "", Journal.Result.NOTE, "stays");
        for (String attempt : new String[] {"update journal_entry set sentence = 'x'", "delete from journal_entry",
            "drop table journal_entry", "truncate table journal_entry", "alter table journal_entry add x int"}) {
            DataAccessException refused = assertThrows(DataAccessException.class, () -> worker.execute(attempt), attempt);
            assertTrue(refused.getMostSpecificCause().getMessage().contains("Not enough rights")
                || refused.getMostSpecificCause().getMessage().contains("Admin rights"), attempt + ": " + refused.getMessage());
        }
    }

    /** Who owns the file can change a line past the program; the check says which. */
    @Test
    void aLineChangedInTheFileIsFound() throws Exception {
        journal.add("ada", "note", "", Journal.Result.NOTE, "what was said");
        assertTrue(read("/api/v1/journal/check").get("whole").asBoolean(), read("/api/v1/journal/check").toString());
        long id = read("/api/v1/journal?text=what was said").get("lines").get(0).get("id").asLong();
        try (
            Connection owner = DriverManager.getConnection(database.determineUrl(), "granary",
                Keys.of(Path.of(home).resolve("db")).owner());
            Statement sql = owner.createStatement()) {
            sql.execute("update journal_entry set sentence = 'what was never said' where id = " + id);
            JsonNode check = read("/api/v1/journal/check");
            assertTrue(
                !check.get("whole").asBoolean() && check.get("sentence").asText().contains("Line " + id + " is not what was written"),
                check.toString());
            sql.execute("update journal_entry set sentence = 'what was said' where id = " + id);
        }
        assertTrue(read("/api/v1/journal/check").get("whole").asBoolean());
    }
}
