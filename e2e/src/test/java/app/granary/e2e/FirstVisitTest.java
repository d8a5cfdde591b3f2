package app.granary.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

/** A new office with real devices: the first visit makes the technician's account. */
class FirstVisitTest extends BrowserTest {
    @Override
    RunningServer begin() throws IOException {
        Path home = RunningServer.newHome();
        return RunningServer.start(home, "--granary.destinations=" + Files.createDirectories(home.resolve("lean-to")));
    }

    @Test
    void theFirstVisitCreatesTheTechniciansAccount() {
        page.navigate(server.url() + "/images");
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
        theFirstDayLeads();
        open("/images");
        assertThat(page.getByText("Images appear here, newest first")).isVisible();
        open("/destinations");
        assertThat(page.getByText("lean-to", new Page.GetByTextOptions().setExact(true)).first()).isVisible();
        page.keyboard().press("Alt+2");
        assertThat(page.getByText("Raw disk image files put into")).isVisible();
        aSignInThatEndsTakesNothingFromThePage();
        assertEquals(List.of(), browser.complaints());
        aPageWhoseCodeIsGoneIsLoadedAnew();
        aServerThatIsGoneIsTold();
    }

    /** Its steps tick themselves; it can be left, and found again. */
    private void theFirstDayLeads() {
        assertThat(page.locator("h1")).hasText("The first day");
        assertThat(page.getByText("With an image and a stick that starts it, a computer of this office can die and be back.")).isVisible();
        Locator office = page.locator("li", new Page.LocatorOptions().setHasText("Name the office and its hours"));
        office.getByText("Name it").click();
        page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Upper Mill");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save the settings")).click();
        assertThat(page.getByText("Saved: the office and its images.")).isVisible();
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("the first day")).click();
        assertThat(page.locator("li.done").first()).containsText("Upper Mill; open");
        assertThat(page.locator("li.next")).hasCount(1);
        glance(page, "first-day");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Leave this page; it stays under Settings")).click();
        assertThat(page.locator("h1")).hasText("Today");
        assertThat(page.getByText("Go on with the first day")).hasCount(0);
    }

    /** After an update the code of a page that was not fetched yet has another name; a click did nothing then, for ever. */
    private void aPageWhoseCodeIsGoneIsLoadedAnew() {
        AtomicInteger missed = new AtomicInteger();
        page.route("**/assets/RescuePage-*.js", gone -> {
            missed.incrementAndGet();
            gone.fulfill(new Route.FulfillOptions().setStatus(404));
        });
        page.reload();
        page.waitForCondition(() -> missed.get() > 0, new Page.WaitForConditionOptions().setTimeout(90_000)); // when it is idle
        page.route(server.url() + "/rescue-media", anew -> {
            page.unroute("**/assets/RescuePage-*.js"); // what is loaded anew names code that is there
            anew.resume();
        });
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Rescue media")).click();
        assertThat(page.locator("h1")).hasText("Rescue media");
        assertTrue(missed.get() > 1, "it was asked for once more, in vain");
    }

    /** The page went on to say that nothing was running. */
    private void aServerThatIsGoneIsTold() {
        assertThat(page.locator("footer")).containsText("Nothing running");
        server.kill();
        assertThat(page.locator("footer")).containsText("No answer from Granary since");
        assertThat(page.locator("footer")).not().containsText("Nothing running");
    }

    /** What was typed was lost: the page said "Sign in first", and the way to sign in led away from it. */
    private void aSignInThatEndsTakesNothingFromThePage() {
        open("/journal");
        page.getByLabel("Note", new Page.GetByLabelOptions().setExact(true)).fill("the office was painted");
        page.context().clearCookies(new BrowserContext.ClearCookiesOptions().setName("GRANARY_SESSION"));
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Add the note")).click();
        Locator again = page.getByRole(AriaRole.DIALOG);
        assertThat(again).containsText("Your sign-in has ended");
        assertThat(again.getByLabel("Name")).hasValue("Ada");
        again.getByLabel("Password").fill("something else entirely");
        page.keyboard().press("Enter");
        assertThat(again.getByRole(AriaRole.ALERT)).isVisible();
        again.getByLabel("Password").fill("four plain words here");
        page.keyboard().press("Enter");
        assertThat(again).hasCount(0);
        assertThat(page.getByLabel("Note", new Page.GetByLabelOptions().setExact(true))).hasValue("the office was painted");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Add the note")).click();
        assertThat(page.locator("main")).containsText("the office was painted");
    }
}
