package app.granary.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.extension.ExtendWith;

/**
 * A server and a browser of its own for one class of tests, whose methods follow one another. With
 * {@code GRANARY_SCREENSHOTS=yes ./granary test} they also renew docs/screenshots.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
@ExtendWith(Evidence.class)
abstract class BrowserTest {
    /** The demo's password, for all of its accounts. */
    static final String PASSWORD = "survey-the-tarn";
    /**
     * How long a page may take to come to a state, on a machine that is busy with other tests; nothing waits longer than that state takes.
     */
    private static final double PATIENCE_MILLIS = 30_000;
    private static final boolean PICTURES = Boolean.getBoolean("granary.screenshots");

    RunningServer server;
    Browser browser;
    Page page;

    /** Starts what the class is about. */
    abstract RunningServer begin() throws IOException;

    @BeforeAll
    void start() throws IOException {
        PlaywrightAssertions.setDefaultAssertionTimeout(PATIENCE_MILLIS);
        server = begin();
        browser = new Browser();
        page = browser.page(ColorScheme.LIGHT);
        entered();
    }

    /** What happens before the first test; nothing unless a class says otherwise. */
    void entered() throws IOException {
    }

    @AfterAll
    void stop() throws IOException {
        if (browser != null) {
            browser.close();
        }
        if (server != null) {
            server.close();
        }
    }

    static void signIn(Page on, String url, String name, String password) {
        on.navigate(url);
        on.getByLabel("Name").fill(name);
        on.getByLabel("Password").fill(password);
        on.getByLabel("Password").press("Enter");
    }

    void signIn() {
        signIn(page, server.url(), "technician", PASSWORD);
        assertThat(page.locator("h1")).hasText("Today");
    }

    void open(String path) {
        page.navigate(server.url() + path);
        // what is on a page is not shown before its first answers are there, and keys go nowhere until then
        page.locator("main:not(.coming)").waitFor();
    }

    /** Who comes back to a window has it ask anew, once what it knows is some seconds old. */
    void comesBackUntilItAsks(String path) {
        page.waitForResponse(each -> each.url().contains(path) && each.request().method().equals("GET"),
            () -> page.evaluate("() => { const comes = () => document.dispatchEvent(new Event('visibilitychange', { bubbles: true })); "
                + "window.comesBack = setInterval(comes, 250) }"));
        page.evaluate("() => clearInterval(window.comesBack)");
    }

    Locator button(String name) {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    /** Chooses the first of a list's options that has a text in it. */
    void choose(String list, String text) {
        Locator options = page.getByRole(AriaRole.OPTION);
        page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName(list)).click();
        options.filter(new Locator.FilterOptions().setHasText(text)).first().click();
        assertThat(options).hasCount(0); // the list has closed
    }

    /** Turns a simulated fault on or off, as the page of simulated devices does, without leaving the page that is open. */
    void simulate(String fault, boolean on) {
        page.evaluate("""
            async ([fault, on]) => {
              const token = decodeURIComponent(document.cookie.split('; ')
                .find(c => c.startsWith('XSRF-TOKEN=')).slice('XSRF-TOKEN='.length))
              const answer = await fetch('/api/v1/switches/' + fault, { method: 'PUT', headers: { 'X-XSRF-TOKEN': token, 
              'Content-Type': 'application/json' }, body: JSON.stringify({ on }) })
              if (!answer.ok) throw new Error(fault + ': ' + answer.status)
            }""", List.of(fault, on));
    }

    /** One for the documents. */
    void picture(String name) {
        if (PICTURES) {
            page.screenshot(new Page.ScreenshotOptions().setPath(Path.of("../docs/screenshots").resolve(name + ".png")));
        }
    }

    /** One to be looked at and forgotten. */
    static void glance(Page at, String name) {
        if (PICTURES) {
            at.screenshot(new Page.ScreenshotOptions().setPath(Path.of("target").resolve(name + ".png")));
        }
    }

    /** One for the documents, and one on dark paper to be looked at and forgotten. */
    void pictures(String name) {
        if (PICTURES) {
            picture(name);
            button("Dark paper").click();
            page.waitForTimeout(400); // colours fade
            glance(page, "dark-" + name);
            button("Light paper").click();
        }
    }
}
