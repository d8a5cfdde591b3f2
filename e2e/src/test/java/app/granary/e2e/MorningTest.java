package app.granary.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.function.Consumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;

/**
 * A morning in the office that has a past of three months: from Today to empty. With {@code GRANARY_SCREENSHOTS=yes} it also renews its
 * pictures.
 */
class MorningTest extends OfficeWithAPast {
    private static final LocatorAssertions.HasCountOptions IN_TIME = new LocatorAssertions.HasCountOptions().setTimeout(90_000);
    private static final LocatorAssertions.IsVisibleOptions PATIENTLY = new LocatorAssertions.IsVisibleOptions().setTimeout(60_000);

    private Locator todo(String title) {
        return page.locator(".todos li").filter(new Locator.FilterOptions().setHasText(title));
    }

    /** Sizes and shifts are the same on any machine; how long it took is only told. */
    @Test
    @Order(0)
    void theFirstLoadIsSmallAndNothingMovesUnderTheEye() {
        Page fresh = browser.page(ColorScheme.LIGHT);
        fresh.addInitScript("window.shifted = 0; window.largest = 0;"
            + "new PerformanceObserver(l => l.getEntries().forEach(e => window.shifted += e.value)).observe({type: 'layout-shift', "
            + "buffered: true});"
            + "new PerformanceObserver(l => l.getEntries().forEach(e => window.largest = e.startTime)).observe({type: "
            + "'largest-contentful-paint', buffered: true});");
        fresh.navigate(server.url() + "/sign-in");
        assertThat(fresh.getByLabel("Password")).isVisible();
        fresh.waitForLoadState(com.microsoft.playwright.options.LoadState.NETWORKIDLE);
        String loaded = "performance.getEntriesByType('resource').filter(e => /\\.(js|css)$/.test(new "
            + "URL(e.name).pathname)).reduce((sum, e) => sum + e.encodedBodySize, 0)";
        int bytes = ((Number) fresh.evaluate(loaded)).intValue();
        double shifted = ((Number) fresh.evaluate("window.shifted")).doubleValue();
        System.out.printf(java.util.Locale.ROOT,
            "first load: %d bytes of script and style, compressed; largest content after %.0f ms; layout shift %.4f%n", bytes,
            ((Number) fresh.evaluate("window.largest")).doubleValue(), shifted);
        assertTrue(bytes > 10_000 && bytes < 350_000, "" + bytes);
        assertTrue(shifted < 0.01, "" + shifted);
    }

    @Test
    @Order(1)
    void everyPageHasSomethingTrueToShow() {
        assertThat(todo("is damaged")).hasCount(1);
        pictures("today");
        open("/images");
        assertThat(page.locator("tbody tr").first()).isVisible();
        pictures("images");
        open("/destinations");
        assertThat(page.getByText("cupboard by the stairs").first()).isVisible();
        assertThat(page.getByText("What it held over time, in TB. Line: full, less the reserve")).isVisible();
        pictures("destinations");
        open("/journal");
        assertThat(page.getByText("Image LEDGER").first()).isVisible();
        button("Verify the journal").click();
        assertThat(page.getByText("each is what was written")).isVisible();
        pictures("journal");
        page.getByLabel("Filter the journal").fill("KEY-B gave write errors");
        assertThat(page.locator("main tbody tr")).hasCount(1);
        open("/computers");
        assertThat(page.locator("section h2:not(.section)")).hasCount(9);
    }

    @Test
    @Order(2)
    void aDryRunIsExplainedImageByImageAndAReleaseIsTakenBack() {
        open("/retention");
        assertThat(page.locator("main")).containsText("Kept are the newest proven of 7 days, 4 weeks and 12 months");
        page.locator(".opener").filter(new Locator.FilterOptions().setHasText("ISOBAR")).click();
        assertThat(page.locator(".why").filter(new Locator.FilterOptions().setHasText("number 2 of the last 4"))).hasCount(1);
        assertThat(page.locator(".why").filter(new Locator.FilterOptions().setHasText("Released: no rule keeps it")).first()).isVisible();
        pictures("retention");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(Pattern.compile("Release \\d+ images …"))).click();
        Locator asking = page.getByLabel("Images to release");
        assertThat(asking).containsText("you can take them back until it is emptied");
        asking.getByRole(AriaRole.CHECKBOX).first().uncheck();
        asking.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(Pattern.compile("^Release \\d+ image"))).click();
        assertThat(asking).hasCount(0, IN_TIME);
        Locator trash = page.locator(".trash tbody tr");
        assertThat(trash.first()).containsText("in the trash");
        int released = trash.count();
        trash.first().getByRole(AriaRole.BUTTON).click();
        assertThat(trash).hasCount(released - 1, IN_TIME);
        page.getByLabel("What if every disk kept").check();
        page.getByLabel("Try: months").fill("0");
        page.getByLabel("Try: months").press("Tab");
        assertThat(page.locator(".outlook")).containsText("newest proven of 7 days and 4 weeks");
    }

    @Test
    @Order(3)
    void theCardsArePrintedOneAPageAndLieOnEveryDrive() throws IOException {
        open("/cards");
        assertThat(page.locator("article")).hasCount(9);
        byte[] pdf = page.pdf(new Page.PdfOptions().setFormat("A4").setPreferCSSPageSize(true));
        Files.write(Path.of("target/booklet.pdf"), pdf);
        Matcher pages = Pattern.compile("/Type\\s*/Page\\b(?!s)").matcher(new String(pdf, StandardCharsets.ISO_8859_1));
        assertEquals(9, pages.results().count(), "one card a page");
        button("Write them to every drive").click();
        assertThat(page.getByText("granary-office/if-it-dies-today.html")).isVisible(PATIENTLY);
        try (Stream<Path> drives = Files.list(server.home().resolve("office/drives"))) {
            Path file = drives.filter(each -> each.endsWith("cairn")).findFirst().orElseThrow()
                .resolve("granary-office/if-it-dies-today.html");
            String html = Files.readString(file);
            assertTrue(html.contains("TRIPOD") && html.contains("kept on TRIPOD itself") && !html.contains("<script"), html);
            page.navigate("file://" + file.toRealPath());
            assertThat(page.locator("section")).hasCount(9);
        }
        open("/today");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("TRIPOD").setExact(true)).click();
        assertThat(page.locator("article")).containsText("What stands in the way");
        pictures("card");
    }

    @Test
    @Order(4)
    void fromTodayToEmpty() {
        open("/today");
        assertThat(todo("is damaged")).hasCount(1);
        todo("is damaged").getByRole(AriaRole.BUTTON).click();
        for (String each : new String[] {"capture failed", "PEG-2 is attached", "may not be saved", "own database"}) {
            todo(each).getByRole(AriaRole.BUTTON).click();
            assertThat(todo(each)).hasCount(0, IN_TIME);
        }
        assertThat(todo("is damaged")).hasCount(0, IN_TIME);
        assertThat(todo("TRIPOD")).hasCount(0); // it is here by its agent, and what is late of it is done tonight by itself
        assertThat(page.locator("main")).containsText("Nothing needs you.");
        assertThat(page.locator("tr", new Page.LocatorOptions().setHasText("TRIPOD"))).containsText("in the queue");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Tonight")).click();
        assertThat(page.locator("main")).containsText("2 of 4 wait in Runs already: THEODOLITE, TRIPOD. Start the night for the others.",
            new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(Pattern.compile("Start the night"))).click();
        assertThat(page).hasURL(server.url() + "/runs");
        open("/today");
        assertThat(page.locator("main")).containsText("Nothing needs you.", new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
        assertThat(page.locator(".todos li")).hasCount(0);
        assertEquals(java.util.List.of(), browser.complaints());
    }

    @Test
    @Order(5)
    void someoneIsInvitedAndTheSettingsAreKept() {
        open("/accounts");
        page.getByLabel("Name of the invited").fill("nell");
        button("Make the invitation").click();
        String link = page.locator(".link code").textContent();
        Page other = browser.page(ColorScheme.LIGHT);
        other.navigate(link);
        other.getByLabel("Password", new Page.GetByLabelOptions().setExact(true)).fill("plain enough words");
        other.getByLabel("Password again").fill("plain enough words");
        other.getByLabel("Password again").press("Enter");
        assertThat(other.locator("h1")).hasText("Today");
        other.navigate(server.url() + "/retention");
        assertThat(other.locator(".policy")).isVisible();
        assertThat(other.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(Pattern.compile("Release \\d+")))).hasCount(0);
        open("/settings");
        page.getByLabel("One a week, for weeks").fill("5");
        choose("Copied every night to", "CAIRN");
        button("Save the settings").click();
        assertThat(page.getByText("Saved: the office and its images.")).isVisible();
        button("Copy it now").click();
        assertThat(page.getByText("It also lies on CAIRN")).isVisible(PATIENTLY);
        open("/retention");
        assertThat(page.locator(".policy")).containsText("7 days, 5 weeks and 12 months");
    }

    @Test
    @Order(6)
    void whatIsTypedIsLostNeitherToAnotherDriveNorToAnotherPerson() {
        open("/destinations");
        Locator drives = page.getByRole(AriaRole.RADIO);
        drives.first().check();
        button("Where it lies, and notes").click();
        page.getByLabel("Where exactly").fill("on the piano");
        drives.nth(1).click();
        button("Stay").click();
        assertThat(drives.first()).isChecked();
        assertThat(page.getByLabel("Where exactly")).hasValue("on the piano");
        drives.nth(1).click();
        button("Discard the changes").click();
        assertThat(drives.nth(1)).isChecked();
        assertThat(page.getByLabel("Where exactly")).hasCount(0);

        Page.GetByTextOptions exactly = new Page.GetByTextOptions().setExact(true);
        open("/computers");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("LEDGER").setExact(true)).first().click();
        button("Edit").click();
        Locator note = page.getByLabel("Note", new Page.GetByLabelOptions().setExact(true));
        note.fill("mine");
        try (Page other = page.context().newPage()) {
            other.navigate(page.url());
            other.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Edit").setExact(true)).click();
            other.getByLabel("Note", new Page.GetByLabelOptions().setExact(true)).fill("theirs");
            other.getByLabel("Role").fill("their books");
            other.getByText("Save", exactly).click();
            assertThat(other.getByText("theirs", exactly)).isVisible();
        }
        page.clock().setFixedTime(MORNING.plusSeconds(60).toString()); // it stands still on this page
        comesBackUntilItAsks("/api/v1/computers/");
        button("Save").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("Someone changed LEDGER while you were editing it.");
        assertThat(note).hasValue("mine");
        button("Keep my edits").click();
        button("Save").click();
        assertThat(page.getByText("mine", exactly)).isVisible();
        assertThat(page.locator("main")).containsText("their books"); // what only they changed stays
        assertEquals(java.util.List.of(), browser.complaints());
    }

    private static Locator field(Page page, String label) {
        return page.getByLabel(label, new Page.GetByLabelOptions().setExact(true));
    }

    /** Another window saves both fields between what is typed into one of them here and its saving. */
    private void overtaken(Consumer<Page> form, String both, String theirs, String save, String whose) {
        Page.GetByRoleOptions saves = new Page.GetByRoleOptions().setName(save).setExact(true);
        form.accept(page);
        field(page, both).fill("mine@office.example");
        try (Page other = page.context().newPage()) {
            form.accept(other);
            field(other, both).fill("theirs@office.example");
            field(other, theirs).fill("7");
            other.getByRole(AriaRole.BUTTON, saves).click();
            assertThat(other.getByRole(AriaRole.BUTTON, saves)).isHidden();
        }
        button(save).click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("Someone changed " + whose + " while you were editing it.");
        assertThat(field(page, both)).hasValue("mine@office.example");
        button("Keep my edits").click();
        button(save).click();
        assertThat(button(save)).isHidden();
        form.accept(page);
        assertThat(field(page, both)).hasValue("mine@office.example");
        assertThat(field(page, theirs)).hasValue("7"); // what only they changed stays
    }

    @Test
    @Order(7)
    void inTheSettingsAndOnADriveMyEditsAreKeptBesideTheirs() {
        overtaken(each -> each.navigate(server.url() + "/settings"), "Mail of every night to", "One a week, for weeks", "Save the settings",
            "the office's settings");
        overtaken(each -> {
            each.navigate(server.url() + "/destinations");
            each.getByRole(AriaRole.RADIO).first().check();
            each.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Where it lies, and notes")).click();
        }, "Where exactly", "Rotation", "Save", "CAIRN");
    }
}
