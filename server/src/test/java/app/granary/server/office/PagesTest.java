package app.granary.server.office;

import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.forwardedUrl;

import app.granary.server.ServerTestBase;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

class PagesTest extends ServerTestBase {
    @Autowired
    private MockMvc http;

    /** Every page the browser's router knows can be loaded anew, bookmarked and sent to somebody. */
    @Test
    void everyPageOfTheRouterIsServedUnderItsOwnAddress() throws Exception {
        String router = Files.readString(Path.of("../web/src/router.ts"));
        List<String> paths = Pattern.compile("path: '(/[^']*)'").matcher(router).results().map((MatchResult found) -> found.group(1))
            .filter(path -> !path.contains("*")).toList();
        assertTrue(paths.size() > 15 && paths.contains("/outbox"), paths.toString());
        for (String path : paths) {
            http.perform(get(path.replaceAll(":[a-zA-Z]+", "7b0e"))).andExpect(forwardedUrl("/index.html"));
        }
    }
}
