package app.granary.server.restore;

import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.runbook.Runbook;
import java.util.List;
import org.junit.jupiter.api.Test;

class RunbookHtmlTest {
    @Test
    void thePageStandsAloneAndShowsMarkupAsText() {
        Runbook book = new Runbook("TRIPOD <b>from</b> x", "Everything goes.",
            List.of(new Runbook.Step("Fetch PEG-1 & go", 5, 10, ""), new Runbook.Step("Write it", 1, 1, "cat a | dd of=/dev/sdX")),
            List.of(new Runbook.Step("By hand", 0, 0, "")), List.of("Log-in works"), List.of());
        String html = RunbookHtml.of(book);
        assertTrue(html.contains("TRIPOD &lt;b&gt;from&lt;/b&gt; x"));
        assertTrue(html.contains("Fetch PEG-1 &amp; go <span class=\"min\">5 to 10 min</span>"));
        assertTrue(html.contains("<code>cat a | dd of=/dev/sdX</code>"));
        assertTrue(html.contains("With standard tools only"));
        assertTrue(html.contains("About 6 to 11 min."), html);
        assertFalse(html.contains("http"), "nothing is fetched");
    }
}
