package app.granary.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.util.List;
import org.junit.jupiter.api.Test;

/** A new office with real devices: the first visit makes the technician's account. */
class FirstVisitTest extends BrowserTest {
    @Override
    RunningServer begin() throws IOException {
        return RunningServer.start();
    }

    @Test
    void theFirstVisitCreatesTheTechniciansAccount() {
        open("/images");
        assertThat(page.getByText("Nobody has an account here yet.")).isVisible();
        assertThat(page.getByText("It stands at the end of the address that Granary printed")).isVisible();
        page.getByLabel("Word", new Page.GetByLabelOptions().setExact(true)).fill("a guess");
        page.getByLabel("Name").fill("Mallory");
        page.getByLabel("Password", new Page.GetByLabelOptions().setExact(true)).fill("four plain words here");
        page.getByLabel("Password again").fill("four plain words here");
        page.keyboard().press("Enter");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("open the address it printed then");
        page.navigate(server.printed());
        assertThat(page.getByText("Nobody has an account here yet.")).isVisible();
        assertThat(page.getByLabel("Word", new Page.GetByLabelOptions().setExact(true))).hasCount(0);
        page.getByLabel("Name").fill("Ada");
        page.getByLabel("Password", new Page.GetByLabelOptions().setExact(true)).fill("short");
        page.getByLabel("Password again").fill("shirt");
        page.keyboard().press("Enter");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("The two passwords differ");
        page.getByLabel("Password again").fill("short");
        page.keyboard().press("Enter");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("Choose a password of 10 to 72 characters");
        page.getByLabel("Password", new Page.GetByLabelOptions().setExact(true)).fill("four plain words here");
        page.getByLabel("Password again").fill("four plain words here");
        page.keyboard().press("Enter");
        assertThat(page.locator("h1")).hasText("Today");
        open("/images");
        assertThat(page.getByText("Images lie here once made")).isVisible();
        page.keyboard().press("Alt+2");
        assertThat(page.getByText("Raw disk image files put into")).isVisible();
        assertEquals(List.of(), browser.complaints());
    }
}
