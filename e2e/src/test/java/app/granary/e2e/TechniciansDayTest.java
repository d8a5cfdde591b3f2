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
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;

/**
 * The day's work in the demo, in a real browser. With {@code GRANARY_SCREENSHOTS=yes} it also renews docs/screenshots.
 */
class TechniciansDayTest extends FirstHalfOfTheDay {
    @Test
    @Order(7)
    void theImageHoldsTheEvidenceOfItsChecks() {
        page.keyboard().press("Alt+6");
        assertThat(page.locator(".summary")).containsText("1 image of 1 disk in 1 copy");
        page.locator("a.copy").first().click();
        assertThat(page.locator("h1")).hasText("MERIDIAN-first");
        assertThat(page.locator("section").first()).containsText("every digest matches and every frame decodes");
        button(page, "Check this image").click();
        assertThat(page.locator("tr", new Page.LocatorOptions().setHasText("Check"))).containsText("done",
            new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
    }

    @Test
    @Order(8)
    void aDamagedImageIsFoundAndSaidSo() throws IOException {
        Path part = server.home().resolve("office/drives/peg-1/MERIDIAN-first/data/disk.img.zst.000");
        try (java.nio.channels.FileChannel raw = java.nio.channels.FileChannel.open(part, java.nio.file.StandardOpenOption.WRITE)) {
            raw.write(java.nio.ByteBuffer.wrap(new byte[] {1, 2, 3}), Files.size(part) / 2);
        }
        page.navigate(server.url() + "/images");
        newestImage(page).click();
        button(page, "Check this image").click();
        assertThat(page.locator("tr", new Page.LocatorOptions().setHasText("failed")))
            .containsText("data/disk.img.zst.000 is damaged from byte", new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
        page.keyboard().press("Alt+6");
        newestImage(page).click();
        assertThat(page.locator("section").first()).containsText("partition 3 (\"main\")");
    }

    @Test
    @Order(9)
    void aDrivesPlaceIsNotedAndItsRoomShown() throws IOException {
        page.keyboard().press("Alt+7");
        assertThat(page.locator("h1")).hasText("Destinations");
        page.locator("label", new Page.LocatorOptions().setHasText("PEG-1")).locator("input").check();
        assertThat(page.locator("section h2:not(.section)")).hasText("PEG-1");
        page.getByText("Where it lies, and notes").click();
        page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("It lies")).click();
        page.getByRole(AriaRole.OPTION, new Page.GetByRoleOptions().setName("in the fire safe")).click();
        page.getByLabel("Where exactly").fill("shelf 2");
        page.getByLabel("Rotation").fill("weekly pair");
        button(page, "Save").click();
        assertThat(page.locator("section")).containsText("in the fire safe, shelf 2 (technician)");
        page.locator(".full button.figure").click();
        assertThat(page.locator("aside")).containsText("Grows by, a day");
        assertThat(page.locator("figure svg")).isVisible();
        page.keyboard().press("Escape");
    }

    @Test
    @Order(10)
    void aDestinationFilledFromOutsideTurnsUnfitWithoutReload() throws IOException {
        page.navigate(server.url() + "/make-image/gnomon");
        Locator drive = page.locator("label", new Page.LocatorOptions().setHasText("PEG-3"));
        assertThat(drive).containsText("left", new LocatorAssertions.ContainsTextOptions().setTimeout(30_000));
        Path filler = Files.createDirectories(server.home().resolve("office/drives/peg-3/filler"));
        try (java.nio.channels.FileChannel hole = java.nio.channels.FileChannel.open(filler.resolve("hole"),
            java.nio.file.StandardOpenOption.CREATE, java.nio.file.StandardOpenOption.WRITE)) {
            hole.write(java.nio.ByteBuffer.allocate(1), 127_000_000_000L); // a hole, which takes no room here and all of it there
        }
        assertThat(drive).containsText("short", new LocatorAssertions.ContainsTextOptions().setTimeout(9_000));
        Files.delete(filler.resolve("hole"));
    }

    @Test
    @Order(11)
    void theJournalTellsItAllAndTakesNotes() {
        page.keyboard().press("Alt+0");
        page.getByRole(AriaRole.TEXTBOX, new Page.GetByRoleOptions().setName("Note")).fill("PEG-1 to the fire safe");
        page.keyboard().press("Enter");
        assertThat(page.locator("tbody tr").first()).containsText("PEG-1 to the fire safe");
        for (String expected : List.of("signed in", "begun as MERIDIAN-first", "Image MERIDIAN-first made on PEG-1", "asked to stop",
            "is damaged from byte")) {
            assertThat(page.locator("main")).containsText(expected);
        }
    }

    @Test
    @Order(12)
    void darkPaperAndBinaryReading() {
        Page dark = browser.page(ColorScheme.DARK);
        signIn(dark, server.url() + "/make-image/meridian", "technician", PASSWORD);
        assertThat(dark.locator(".choices")).not().containsText("sampling", new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
        dark.locator("label", new Page.LocatorOptions().setHasText("CAIRN")).locator("input").check();
        dark.locator("label", new Page.LocatorOptions().setHasText("PEG-2")).locator("button.figure").click();
        assertThat(dark.locator("aside")).containsText("why it does not fit");
        dark.getByText("Sizes as on the label").click();
        assertThat(dark.locator(".summary")).containsText("GiB");
        String decimals = Pattern.compile("parts of \\d GB|2 % or 1 GB").matcher(dark.locator("main").innerText()).replaceAll("");
        assertFalse(Pattern.compile("\\d [kMGT]B\\b").matcher(decimals).find(), decimals);
        dark.getByText("Sizes in binary").click();
        for (String path : List.of("computers", "runs", "images", "journal")) {
            dark.navigate(server.url() + "/" + path);
            assertThat(dark.locator("main")).containsText("MERIDIAN");
            glance(dark, "dark-" + path); // to be looked at, not kept
        }
        dark.navigate(server.url() + "/images");
        newestImage(dark).click();
        assertThat(dark.locator("section").first()).containsText("partition 3");
        glance(dark, "dark-image");
        dark.navigate(server.url() + "/computers");
        dark.locator("section", new Page.LocatorOptions().setHasText("DATUM")).locator("h2 a").click();
        assertThat(dark.locator("figure svg").first()).isVisible();
        glance(dark, "dark-computer");
        dark.navigate(server.url() + "/destinations");
        assertThat(dark.locator("figure svg")).isVisible();
        glance(dark, "dark-destinations");
        button(dark, "Sign out technician").click();
        assertThat(button(dark, "Sign in")).isVisible();
        glance(dark, "dark-sign-in");
    }

    @Test
    @Order(13)
    void aViewerLooksAndCannotAct() {
        Page other = browser.page(ColorScheme.LIGHT);
        signIn(other, server.url() + "/make-image/gnomon", "manager", PASSWORD);
        assertThat(other.locator("h1")).hasText("GNOMON, card", new LocatorAssertions.HasTextOptions().setTimeout(30_000));
        assertThat(button(other, "Make this image")).isDisabled();
        assertThat(other.locator("input[name=destination]").first()).isDisabled();
        button(other, "Sign out manager").click();
        assertThat(button(other, "Sign in")).isVisible();
    }

    @Test
    @Order(14)
    void noPageComplained() {
        assertEquals(List.of(), browser.complaints());
    }
}
