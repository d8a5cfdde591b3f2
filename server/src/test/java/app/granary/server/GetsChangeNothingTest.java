package app.granary.server;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.hibernate.resource.jdbc.spi.StatementInspector;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.context.TestPropertySource;
import org.springframework.test.web.servlet.MockMvc;

/** Looking at a page wrote: what was measured was remembered by whoever asked first. */
@TestPropertySource(
    properties = "spring.jpa.properties.hibernate.session_factory.statement_inspector=app.granary.server.GetsChangeNothingTest$Changes")
@WithMockUser(username = "technician", roles = "TECHNICIAN")
class GetsChangeNothingTest extends ServerTestBase {
    private static final ThreadLocal<List<String>> CHANGES = new ThreadLocal<>();

    @Autowired
    private MockMvc http;

    /** What this thread changes while it is listened to. */
    public static class Changes implements StatementInspector {
        @Override
        public String inspect(String sql) {
            String verb = sql.stripLeading().split(" ")[0].toLowerCase(Locale.ROOT);
            if (CHANGES.get() != null && List.of("insert", "update", "delete", "merge").contains(verb)) {
                CHANGES.get().add(sql);
            }
            return sql;
        }
    }

    @Test
    void noPageWritesWhenItIsLookedAt() throws Exception {
        String table = new String(GetsChangeNothingTest.class.getResourceAsStream("/endpoints.txt").readAllBytes(), StandardCharsets.UTF_8);
        List<String> pages = table.lines().map(line -> line.strip().split("\\s+"))
            .filter(row -> row.length > 2 && row[1].equals("GET") && !row[2].contains("{") && !row[2].endsWith("/events"))
            .map(row -> row[2]).toList();
        assertTrue(pages.size() > 30, pages.toString());
        CHANGES.set(new ArrayList<>());
        http.perform(post("/api/v1/journal/notes").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content("{\"text\":\"heard\",\"signOff\":false,\"corrects\":0}"));
        assertFalse(CHANGES.get().isEmpty(), "a change is heard of");
        List<String> out = new ArrayList<>();
        for (String page : pages) {
            CHANGES.set(new ArrayList<>());
            http.perform(get(page));
            CHANGES.get().forEach(sql -> out.add(page + ": " + sql));
        }
        CHANGES.remove();
        assertEquals(List.of(), out);
    }
}
