package app.granary.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import java.io.IOException;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;

/** The made-up office on a Wednesday morning, whenever this runs, with three months behind it and a technician signed in. */
abstract class OfficeWithAPast {
    RunningServer server;
    Browser browser;
    Page page;

    @BeforeAll
    void start() throws IOException {
        server = RunningServer.start("--granary.demo=true", "--granary.history=true", "--granary.now=2026-11-25T09:10:00Z", "--granary.pace=20");
        browser = new Browser();
        page = browser.page(ColorScheme.LIGHT);
        page.clock().setFixedTime("2026-11-25T09:10:00Z");
        page.navigate(server.url());
        page.getByLabel("Name").fill("technician");
        page.getByLabel("Password").fill("survey-the-tarn");
        page.getByLabel("Password").press("Enter");
        assertThat(page.locator("h1")).hasText("Today");
    }

    @AfterAll
    void stop() throws IOException {
        browser.close();
        server.close();
    }

    /** One for the documents, and one on dark paper to be looked at and forgotten. */
    void pictures(String name) {
        if (Boolean.getBoolean("granary.screenshots")) {
            page.screenshot(new Page.ScreenshotOptions().setPath(Path.of("../docs/screenshots").resolve(name + ".png")));
            button("Dark paper").click();
            page.waitForTimeout(400);
            page.screenshot(new Page.ScreenshotOptions().setPath(Path.of("target/dark-" + name + ".png")));
            button("Light paper").click();
        }
    }

    Locator button(String name) {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    void open(String path) {
        page.navigate(server.url() + path);
    }
}
