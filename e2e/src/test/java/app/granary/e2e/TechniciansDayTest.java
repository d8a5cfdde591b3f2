package app.granary.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.TestMethodOrder;

/**
 * The day's work in the demo, in a real browser. With {@code -Dgranary.screenshots=true} it also renews docs/screenshots.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class TechniciansDayTest {
    private static final Path PICTURES = Path.of("../docs/screenshots");
    private static final LocatorAssertions.IsVisibleOptions PATIENTLY = new LocatorAssertions.IsVisibleOptions().setTimeout(60_000);

    private RunningServer server;
    private Browser browser;
    private Page page;

    @BeforeAll
    void start() throws IOException {
        server = RunningServer.start("--granary.demo=true", "--granary.pace=2");
        browser = new Browser();
        page = browser.page(ColorScheme.LIGHT);
    }

    @AfterAll
    void stop() throws IOException {
        browser.close();
        server.close();
    }

    private void picture(Page of, String name) {
        if (Boolean.getBoolean("granary.screenshots")) {
            of.screenshot(new Page.ScreenshotOptions().setPath(PICTURES.resolve(name + ".png")));
        }
    }

    private static Locator button(Page on, String name) {
        return on.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name));
    }

    private static void signIn(Page on, String url, String name, String password) {
        on.navigate(url);
        on.getByLabel("Name").fill(name);
        on.getByLabel("Password").fill(password);
        on.getByLabel("Password").press("Enter");
    }

    @Test
    @Order(1)
    void signInRefusesThenLetsIn() {
        signIn(page, server.url(), "technician", "not the password");
        assertThat(page.getByRole(AriaRole.ALERT)).hasText("Name and password do not match. Check both and try again.");
        picture(page, "sign-in");
        page.getByLabel("Password").fill("survey-the-tarn");
        button(page, "Sign in").click();
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Computers"))).isVisible();
    }

    @Test
    @Order(2)
    void computersShowTheirDisks() {
        for (String name : List.of("DATUM", "GNOMON", "MERIDIAN")) {
            assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName(name).setExact(true))).isVisible();
        }
        assertThat(page.locator(".summary")).containsText("0 of 3 computers have a sound image. 4 disks hold");
        picture(page, "computers");
        page.keyboard().press("/");
        page.keyboard().type("plotter");
        assertThat(page.locator("section h2")).hasText(new String[] {"GNOMON"});
        page.locator("input[data-filter]").fill("");
    }

    @Test
    @Order(3)
    void anImageIsWeighedWithItsWorkingAndMadeByKeyboard() {
        page.keyboard().press("Control+k");
        page.keyboard().type("meridian");
        page.keyboard().press("Enter");
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("MERIDIAN, system disk"))).isVisible(PATIENTLY);
        assertThat(page.locator(".summary")).containsText(Pattern.compile("About .* GB, between .* GB and .* GB\\. Fits .*PEG-2 is .* short"));
        assertThat(page.locator("label.unfit", new Page.LocatorOptions().setHasText("PEG-2")).locator("input")).isDisabled();
        assertThat(button(page, "Make this image")).isDisabled();
        page.locator(".summary button.figure").click();
        assertThat(page.locator("aside")).containsText("Standard error");
        assertThat(page.locator("aside")).containsText("nine times in ten the true size lies between low and high");
        page.keyboard().press("Escape");
        assertThat(page.locator("aside")).hasCount(0);
        assertThat(page.locator(".choices")).not().containsText("sampling", new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
        page.locator("label", new Page.LocatorOptions().setHasText("PEG-1")).locator("input").focus();
        page.keyboard().press("Space");
        page.locator(".summary button.figure").click();
        picture(page, "make-an-image");
        page.keyboard().press("Escape");
        page.getByLabel("Name").fill("has a space");
        button(page, "Make this image").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("The name \"has a space\" cannot be used on every destination");
        page.getByLabel("Name").fill("MERIDIAN-first");
        button(page, "Make this image").press("Enter");
        assertThat(page.locator("article h2")).hasText("MERIDIAN-first");
    }

    @Test
    @Order(4)
    void aRunIsWatchedLiveAndAnotherIsStopped() {
        assertThat(page.locator("article")).containsText("Reading, compressing, writing");
        assertThat(page.locator("article")).containsText(Pattern.compile("Done.*GB of .*GB, [2-6][0-9] %"), new LocatorAssertions.ContainsTextOptions().setTimeout(30_000));
        assertThat(page.locator("footer")).containsText("MERIDIAN-first: capturing");
        picture(page, "runs");
        assertThat(page.locator("tr", new Page.LocatorOptions().setHasText("MERIDIAN"))).containsText("done", new LocatorAssertions.ContainsTextOptions().setTimeout(90_000));
        page.navigate(server.url() + "/computers/datum-2");
        page.locator("label", new Page.LocatorOptions().setHasText("CAIRN")).locator("input").check();
        assertThat(page.locator("label.unfit", new Page.LocatorOptions().setHasText("SHELF"))).containsText("the disk itself");
        button(page, "Make this image").click();
        button(page, "Stop").click();
        button(page, "Stop this run").click();
        assertThat(page.locator("tr", new Page.LocatorOptions().setHasText("stopped"))).containsText("Stopped as asked", new LocatorAssertions.ContainsTextOptions().setTimeout(30_000));
    }

    @Test
    @Order(5)
    void theImageHoldsTheEvidenceOfItsChecks() {
        page.keyboard().press("Alt+3");
        assertThat(page.locator(".summary")).containsText("1 image,");
        picture(page, "images");
        page.locator("tbody tr").first().click();
        assertThat(page.locator("h1")).hasText("MERIDIAN-first");
        assertThat(page.locator("section").first()).containsText("every digest matches and every frame decodes");
        button(page, "Check this image").click();
        assertThat(page.locator("tr", new Page.LocatorOptions().setHasText("Check"))).containsText("done", new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
    }

    @Test
    @Order(6)
    void aDamagedImageIsFoundAndSaidSo() throws IOException {
        Path part = server.home().resolve("office/drives/peg-1/MERIDIAN-first/data/disk.img.zst.000");
        try (java.nio.channels.FileChannel raw = java.nio.channels.FileChannel.open(part, java.nio.file.StandardOpenOption.WRITE)) {
            raw.write(java.nio.ByteBuffer.wrap(new byte[] {1, 2, 3}), Files.size(part) / 2);
        }
        page.navigate(server.url() + "/images");
        page.locator("tbody tr").first().click();
        button(page, "Check this image").click();
        assertThat(page.locator("tr", new Page.LocatorOptions().setHasText("failed"))).containsText("data/disk.img.zst.000 is damaged from byte", new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
        page.keyboard().press("Alt+3");
        page.locator("tbody tr").first().click();
        assertThat(page.locator("section").first()).containsText("partition 3 (\"main\")");
        picture(page, "image");
    }

    @Test
    @Order(7)
    void theJournalTellsItAllAndTakesNotes() {
        page.keyboard().press("Alt+4");
        page.getByRole(AriaRole.TEXTBOX, new Page.GetByRoleOptions().setName("Note")).fill("PEG-1 to the fire safe");
        page.keyboard().press("Enter");
        assertThat(page.locator("tbody tr").first()).containsText("PEG-1 to the fire safe");
        for (String expected : List.of("signed in", "begun as MERIDIAN-first", "Image MERIDIAN-first made on PEG-1", "asked to stop", "is damaged from byte")) {
            assertThat(page.locator("main")).containsText(expected);
        }
        picture(page, "journal");
    }

    @Test
    @Order(8)
    void darkPaperAndBinaryReading() {
        Page dark = browser.page(ColorScheme.DARK);
        signIn(dark, server.url() + "/computers/meridian", "technician", "survey-the-tarn");
        assertThat(dark.locator(".choices")).not().containsText("sampling", new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
        dark.locator("label", new Page.LocatorOptions().setHasText("CAIRN")).locator("input").check();
        dark.locator("label", new Page.LocatorOptions().setHasText("PEG-2")).locator("button.figure").click();
        assertThat(dark.locator("aside")).containsText("why it does not fit");
        picture(dark, "make-an-image-dark");
        dark.getByText("Sizes as on the label").click();
        assertThat(dark.locator(".summary")).containsText("GiB");
        String decimals = Pattern.compile("parts of \\d GB|2 % or 1 GB").matcher(dark.locator("main").innerText()).replaceAll("");
        assertFalse(Pattern.compile("\\d [kMGT]B\\b").matcher(decimals).find(), decimals);
        dark.getByText("Sizes in binary").click();
        for (String path : List.of("computers", "runs", "images", "journal")) {
            dark.navigate(server.url() + "/" + path);
            assertThat(dark.locator("main")).containsText("MERIDIAN");
            picture(dark, "../../e2e/target/dark-" + path); // to be looked at, not kept
        }
    }

    @Test
    @Order(9)
    void aViewerLooksAndCannotAct() {
        Page other = browser.page(ColorScheme.LIGHT);
        signIn(other, server.url() + "/computers/gnomon", "manager", "survey-the-tarn");
        assertThat(other.locator("h1")).hasText("GNOMON, card", new LocatorAssertions.HasTextOptions().setTimeout(30_000));
        assertThat(button(other, "Make this image")).isDisabled();
        assertThat(other.locator("input[name=destination]").first()).isDisabled();
        button(other, "Sign out manager").click();
        assertThat(button(other, "Sign in")).isVisible();
    }

    @Test
    @Order(10)
    void noPageComplained() {
        assertEquals(List.of(), browser.complaints());
    }
}
