package app.granary.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;

/**
 * Every page, in both themes, held against axe-core (Deque), which knows WCAG 2.2 and common good practice: headings in order, names of
 * fields, contrast, roles. Nothing of any weight is left.
 */
class EveryPageTest extends OfficeWithAPast {
    private static final List<String> PAGES = List.of("/today", "/cover", "/computers", "/computers/new", "/cards", "/settings", "/journal",
        "/journal/report", "/import", "/destinations", "/plans", "/night", "/outbox", "/simulated", "/runs", "/images",
        "/images/elsewhere", "/retention", "/restore", "/restore?computer=TRIPOD&disk=tripod", "/rollouts", "/rescue-media",
        "/prepare-drive", "/make-image/gnomon", "/plans/new/gnomon", "/labels/cairn");
    /** One page of each kind that is about one thing. */
    private static final String ONE_OF_EACH = """
        Promise.all(['/api/v1/plans', '/api/v1/computers', '/api/v1/images/page', '/api/v1/rescue-media'].map(p => fetch(p)
          .then(r => r.json()))).then(([plans, computers, images, media]) => [
            '/plans/' + plans[0].id,
            '/computers/' + computers.computers[0].id, '/computers/' + computers.computers[0].id + '/card',
            '/images/' + images.lines[0].id, '/images/' + images.lines[0].id + '/inside',
            ...media.media.slice(0, 1).map(m => '/rescue-media/' + m.id + '/label')])""";
    private static final String LOOK = """
        axe.run(document, { resultTypes: ['violations'] }).then(found => found.violations.map(v =>
          v.id + ' (' + v.impact + '): ' + v.help + ': ' + v.nodes.slice(0, 4).map(n => n.target.join(' ') + ' ' + n.html.slice(0, 120))
            .join(' | ')))""";

    private static String axe() throws IOException {
        try (InputStream script = EveryPageTest.class.getResourceAsStream("/axe.min.js")) {
            return new String(script.readAllBytes(), StandardCharsets.UTF_8);
        }
    }

    private List<String> looked(String path, String axe) {
        open(path);
        assertThat(page.locator("h1").first()).isVisible();
        page.waitForTimeout(600); // a stream of events stays open, so the network is never idle
        page.evaluate(axe);
        List<String> out = new ArrayList<>();
        ((List<?>) page.evaluate(LOOK)).forEach(each -> out.add(path + ": " + each));
        return out;
    }

    @Test
    @Order(1)
    void nothingIsInTheWayOfWhoReadsByEarOrWorksByKeyboard() throws IOException {
        open("/today");
        List<String> pages = new ArrayList<>(PAGES);
        ((List<?>) page.evaluate(ONE_OF_EACH)).forEach(each -> pages.add(String.valueOf(each)));
        String axe = axe();
        List<String> found = new ArrayList<>();
        for (String theme : new String[] {"light", "dark"}) {
            page.evaluate("theme => localStorage.setItem('granary.theme', theme)", theme);
            for (String path : pages) {
                looked(path, axe).forEach(each -> found.add(theme + " " + each));
            }
        }
        assertEquals("", String.join("\n", found));
    }
}
