package app.granary.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.time.temporal.TemporalAdjusters;
import java.util.Locale;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;

/** The afternoon: weigh, choose, plan, put the night in order. With {@code GRANARY_SCREENSHOTS=yes} it also renews its pictures. */
class PlansAndNightTest extends BrowserTest {
    private static final LocatorAssertions.IsVisibleOptions PATIENTLY = new LocatorAssertions.IsVisibleOptions().setTimeout(60_000);
    private static final LocatorAssertions.ContainsTextOptions IN_TIME = new LocatorAssertions.ContainsTextOptions().setTimeout(30_000);
    /** Not tonight, so that the hour at which this runs does not matter. */
    private static final LocalDate TUESDAY = LocalDate.now().plusDays(2).with(TemporalAdjusters.nextOrSame(DayOfWeek.TUESDAY));

    @Override
    RunningServer begin() throws IOException {
        return RunningServer.office();
    }

    @Override
    void entered() {
        signIn();
        page.keyboard().press("Alt+2");
        // the disks are read once all their computers are listed
        assertThat(page.locator("section h2:not(.section)")).hasCount(9, new LocatorAssertions.HasCountOptions().setTimeout(90_000));
        assertThat(page.getByText("Reading the disks…")).hasCount(0, new LocatorAssertions.HasCountOptions().setTimeout(90_000));
    }

    private Locator bin(String name) {
        return page.locator(".names label", new Page.LocatorOptions().setHasText(name));
    }

    private Locator margin() {
        return page.locator("aside.margin");
    }

    @Test
    @Order(1)
    void plansAreListedByWhatIsDue() {
        page.keyboard().press("Alt+3");
        assertThat(page.locator(".summary")).containsText("11 plans;");
        assertThat(page.locator("tbody tr").first()).containsText(Pattern.compile("\\d+ days overdue\\s*TRIPOD, field"));
        glance(page, "plans");
        page.keyboard().press("/");
        page.keyboard().type("meridian");
        assertThat(page.locator("tbody tr")).hasCount(1);
        page.locator("tbody tr").first().press("Enter");
        assertThat(page.locator("h1")).hasText("MERIDIAN, system disk");
    }

    @Test
    @Order(2)
    void raisingCompressionMovesTheBandsAndMakesADriveFitWithItsFiguresInTheMargin() {
        assertThat(bin("PEG-1")).containsText("left", IN_TIME);
        assertThat(page.getByText("sampling…")).hasCount(0, new LocatorAssertions.HasCountOptions().setTimeout(60_000));
        pictures("plan");
        page.getByRole(AriaRole.RADIO, new Page.GetByRoleOptions().setName("Raw disk").setExact(true)).check();
        assertThat(bin("PEG-1")).containsText("does not fit", IN_TIME);
        String bandBefore = page.locator(".bins svg").innerHTML();
        bin("PEG-1").locator("button.figure").click();
        assertThat(margin()).containsText("why it does not fit");
        assertThat(margin()).containsText("Short by");
        page.getByRole(AriaRole.RADIO, new Page.GetByRoleOptions().setName("Tight").setExact(true)).check();
        assertThat(bin("PEG-1")).containsText("left", IN_TIME);
        assertThat(margin()).containsText("why it fits");
        assertThat(margin()).containsText("Left after this image");
        assertTrue(!bandBefore.equals(page.locator(".bins svg").innerHTML()), "the bands moved");
        page.keyboard().press("Escape");
    }

    @Test
    @Order(3)
    void aPlanIsReadBackBeforeItIsSavedAndKeepsItsVersions() {
        page.getByLabel("Mail to").fill("the office");
        page.getByLabel("Mail to").press("Tab");
        assertThat(page.getByLabel("The plan read back"))
            .containsText("is no mail address", IN_TIME);
        page.getByLabel("Mail to").fill("desk@marrowby.example, orla@marrowby.example");
        page.getByLabel("Mail to").press("Tab");
        button("friday").click();
        page.getByLabel("Window opens").fill("1845");
        page.getByLabel("Window opens").press("Tab");
        button("Save the plan").click();
        Locator review = page.getByLabel("Review before saving");
        assertThat(review).containsText(
            "Every Tuesday and Thursday and Friday, between 18:45 and 07:00, booted from rescue media by a person, MERIDIAN's system disk",
            IN_TIME);
        assertThat(review).containsText("compressed with zstd, level 12");
        assertThat(review).containsText("Nothing is erased or overwritten.");
        button("Save it like this").press("Enter");
        assertThat(button("Saved")).isVisible();
        assertThat(page.locator("ol")).containsText("Compression: zstd, level 3 became zstd, level 12", IN_TIME);
        assertThat(page.locator("ol")).containsText("When: between 18:30 and 07:00 became between 18:45 and 07:00");
    }

    @Test
    @Order(4)
    void aPlanGoesOutAndComesBackIdentical() {
        String file = page.request()
            .get(server.url() + page.locator("a[download]", new Page.LocatorOptions().setHasText("Export")).getAttribute("href")).text();
        page.keyboard().press("Alt+3");
        button("Import a plan").click();
        upload(file);
        assertThat(page.getByRole(AriaRole.STATUS).filter(new Locator.FilterOptions().setHasText("exactly as it is here"))).isVisible();
        upload(file.replace("MERIDIAN, drafting", "MERIDIAN, twice"));
        button("Review it").click();
        assertThat(page.getByLabel("The plan's name")).hasValue("MERIDIAN, twice");
        button("Save the plan").click();
        assertThat(page.getByLabel("Review before saving")).containsText("Nothing is erased", IN_TIME);
        button("Save it like this").click();
        assertThat(button("Saved")).isVisible();
        assertEquals(file.replace("MERIDIAN, drafting", "MERIDIAN, twice"),
            page.request()
                .get(server.url() + page.locator("a[download]", new Page.LocatorOptions().setHasText("Export")).getAttribute("href"))
                .text());
        page.keyboard().press("Alt+3");
        button("Import a plan").click();
        upload(file.replace("\"granaryPlan\" : 1", "\"granaryPlan\" : 9"));
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("written by a newer Granary (plan version 9)");
        upload(file.replace("7K-0412-MD", "ELSEWHERE-1").replace("MERIDIAN, drafting", "Brought along"));
        assertThat(page.locator("main"))
            .containsText("MERIDIAN, system disk (serial ELSEWHERE-1) is not in this office. For which disk is the plan?");
    }

    private void upload(String file) {
        page.locator("input[type=file]")
            .setInputFiles(new FilePayload("plan.json", "application/json", file.getBytes(StandardCharsets.UTF_8)));
    }

    @Test
    @Order(5)
    void anotherPersonsChangeIsNotOverwrittenAndSaysWhoseItWas() {
        page.getByText("MERIDIAN, twice").first().click();
        assertThat(page.getByLabel("The plan's name")).hasValue("MERIDIAN, twice");
        page.getByLabel("Note").fill("mine");
        page.getByLabel("Note").press("Tab");
        try (Page other = page.context().newPage()) {
            other.navigate(page.url());
            other.getByLabel("Note").fill("theirs");
            other.getByLabel("Note").press("Tab");
            other.getByText("Save the plan").click();
            other.getByText("Save it like this").click();
            assertThat(other.getByText("Saved")).isVisible();
        }
        comesBackUntilItAsks("/api/v1/plans/");
        button("Save the plan").click();
        button("Save it like this").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("technician changed MERIDIAN, twice at");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("Note: none became theirs");
        assertThat(page.getByLabel("Note")).hasValue("mine");
        button("Remove").click();
        assertThat(page.getByLabel("Remove this plan")).containsText("Those it made stay where they are");
        button("Remove the plan").click();
        assertThat(page.locator("h1")).hasText("Plans");
        assertThat(page.locator("tbody")).not().containsText("MERIDIAN, twice");
    }

    @Test
    @Order(6)
    void aNightIsPlannedWithAPinAndWhatDoesNotFitIsExplainedAndHelped() {
        page.navigate(server.url() + "/night?date=" + TUESDAY);
        assertThat(page.locator(".summary")).containsText("CONTOUR, disk 2, mapping",
            new LocatorAssertions.ContainsTextOptions().setTimeout(90_000));
        Locator misfits = page.locator(".misfit", new Page.LocatorOptions().setHasText("CONTOUR, disk 2"));
        assertThat(misfits).containsText(Pattern.compile("needs .+ on CAIRN, and the room there goes to the other images of the night\\."));
        assertThat(misfits).containsText("It would fit on SHELF");
        pictures("night");
        page.locator("button.line", new Page.LocatorOptions().setHasText("LEDGER")).press("Enter");
        assertThat(margin()).containsText("Chance to end in its window");
        page.getByLabel("Start at").fill("02:00");
        button("Pin").click();
        assertThat(page.locator("button.line", new Page.LocatorOptions().setHasText("LEDGER"))).hasAttribute("aria-label",
            Pattern.compile(".*from 02:00 to about .*"));
        assertThat(page.locator(".strip svg")).containsText("pinned");
        button("Unpin").click();
        assertThat(page.locator(".strip svg")).not().containsText("pinned");
        misfits.getByText("Send it there").click();
        assertThat(page.locator("button.line", new Page.LocatorOptions().setHasText("CONTOUR").setHasText("disk 2")))
            .hasAttribute("aria-label", Pattern.compile(".* on SHELF, .*"));
        assertThat(page.locator(".strip .here")).hasText(new String[] {"here", "here"});
        page.getByText("TRIPOD, field: 1 of 6 done").click();
        assertThat(page.locator("details p", new Page.LocatorOptions().setHasText("Boot TRIPOD")))
            .containsText("here, by its agent, since ");
        page.getByLabel("Boot ISOBAR from rescue media (F12)").check();
        assertThat(page.locator("tr", new Page.LocatorOptions().setHasText("Boot ISOBAR"))).containsText("technician, ");
        page.locator("button.line", new Page.LocatorOptions().setHasText("LEDGER")).click();
        button("Leave out that night").click();
        assertThat(page.locator(".idle")).containsText("LEDGER, nightly, left out by hand");
        page.locator(".idle p", new Page.LocatorOptions().setHasText("LEDGER")).getByText("take it back in").click();
        assertThat(page.locator("button.line", new Page.LocatorOptions().setHasText("LEDGER"))).isVisible(PATIENTLY);
    }

    @Test
    @Order(7)
    void aDayTheOfficeIsClosedMovesWhatNeedsAPerson() {
        page.navigate(server.url() + "/settings#hours");
        page.getByLabel("Closed on").fill(TUESDAY.format(DateTimeFormatter.ofPattern("d MMM uuuu", Locale.ENGLISH)));
        page.getByLabel("Occasion").fill("stocktaking");
        button("Add the day").click();
        button("Save the settings").click();
        assertThat(page.getByRole(AriaRole.STATUS).filter(new Locator.FilterOptions().setHasText("Saved: the hours."))).isVisible();
        page.navigate(server.url() + "/night?date=" + TUESDAY);
        assertThat(page.locator("button.line")).hasCount(1, new LocatorAssertions.HasCountOptions().setTimeout(30_000));
        assertThat(page.locator("button.line")).containsText("DATUM");
        button("Next night ›").click();
        assertThat(page.locator("button.line", new Page.LocatorOptions().setHasText("MERIDIAN"))).isVisible(PATIENTLY);
    }

    /** Outside its days and hours, with all that it says. */
    @Test
    @Order(8)
    void aPlanRunsNow() {
        open("/plans");
        page.locator("tbody tr", new Page.LocatorOptions().setHasText("LEDGER")).first().press("Enter");
        button("Run it now").click();
        page.waitForURL("**/runs");
        assertThat(page.locator("main")).containsText("LEDGER", IN_TIME);
    }
}
