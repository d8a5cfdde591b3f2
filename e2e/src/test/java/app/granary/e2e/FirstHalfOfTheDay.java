package app.granary.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;

/** The first half of the day: signing in, the computers, the first image. */
abstract class FirstHalfOfTheDay extends BrowserTest {
    static final LocatorAssertions.IsVisibleOptions PATIENTLY = new LocatorAssertions.IsVisibleOptions().setTimeout(60_000);

    @Override
    RunningServer begin() throws IOException {
        return RunningServer.office();
    }

    static Locator button(Page on, String name) {
        return on.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name));
    }

    @Test
    @Order(1)
    void signInRefusesThenLetsIn() {
        signIn(page, server.url(), "technician", "not the password");
        assertThat(page.getByRole(AriaRole.ALERT)).hasText("Name and password do not match. Check both and try again.");
        glance(page, "sign-in");
        page.getByLabel("Password").fill(PASSWORD);
        button(page, "Sign in").click();
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Today"))).isVisible();
        assertThat(page.locator(".summary")).containsText("0 of 11 disks covered",
            new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
        page.keyboard().press("Alt+2");
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Computers"))).isVisible();
    }

    @Test
    @Order(2)
    void computersShowTheirDisks() {
        for (String name : List.of("CONTOUR", "DATUM", "GNOMON", "ISOBAR", "LEDGER", "MERIDIAN", "PLUMB", "THEODOLITE", "TRIPOD")) {
            assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName(name).setExact(true))).hasCount(1,
                new LocatorAssertions.HasCountOptions().setTimeout(90_000));
        }
        assertThat(page.locator(".summary")).containsText("0 of 9 computers have a sound image. 11 disks hold");
        assertThat(page.locator("section:not(.agents)", new Page.LocatorOptions().setHasText("TRIPOD")))
            .containsText("kept on TRIPOD itself");
        picture("computers");
        page.keyboard().press("/");
        page.keyboard().type("plotter");
        assertThat(page.locator("section h2:not(.section)")).hasText(new String[] {"GNOMON"});
        page.locator("input[data-filter]").fill("");
        page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("Order")).click();
        page.getByText("largest first").click();
        assertThat(page.locator("section h2:not(.section)").first()).hasText("CONTOUR");
    }

    @Test
    @Order(3)
    void aComputersPageTellsWhatIsReadAndWhyAndTakesEdits() {
        page.mouse().move(640, 220); // a mouse left lying where the list opens chooses nothing
        page.keyboard().press("Control+k");
        page.keyboard().type("contour");
        assertThat(page.getByRole(AriaRole.OPTION).nth(2)).isVisible();
        page.keyboard().press("Enter");
        assertThat(page.locator("h1")).hasText("CONTOUR");
        Locator main = page.locator("tr", new Page.LocatorOptions().setHasText("hiberfil.sys"));
        assertThat(main).containsText("used blocks by its own map; left out: hibernation file hiberfil.sys, page file pagefile.sys");
        assertThat(page.locator("main")).containsText("4096-byte sectors");
        assertThat(page.locator("figure svg").first()).isVisible();
        picture("computer");
        button(page, "Edit").click();
        page.getByLabel("Boot-menu key").fill("F10");
        page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("PLUMB");
        button(page, "Save").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("There is a computer named PLUMB already");
        page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("CONTOUR");
        button(page, "Save").click();
        assertThat(page.locator("dl")).containsText("F10");
        page.navigate(server.url() + "/computers");
        page.locator("section", new Page.LocatorOptions().setHasText("LEDGER")).locator("h2 a").click();
        assertThat(page.locator("main")).containsText("read whole: it is marked as dirty");
    }

    @Test
    @Order(4)
    void aReportIsReviewedBeforeItIsAccepted() {
        page.navigate(server.url() + "/import");
        page.getByLabel("The report").fill("{\"format\": \"granary-inventory\", \"version\": 1, \"computers\": [\n{\"disks\": []}]}");
        button(page, "Show what would change").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("line 2: a computer has no name");
        page.getByLabel("The report").fill("""
            {"format": "granary-inventory", "version": 1, "computers": [
              {"name": "PLUMB", "firmware": "bios", "operatingSystem": "Aster 5", "disks": [
                {"model": "Halden S3", "serial": "22-HS-0777", "sizeBytes": 480103981056, "sectorBytes": 512, "scheme": "mbr", 
                "partitions": [
                  {"number": 1, "startBytes": 1048576, "sizeBytes": 400000000000, "type": "07", "fileSystem": "ntfs", 
                  "usedBytes": 91000000000}]}]},
              {"name": "SEXTANT", "maker": "Wren & Marlow", "disks": [
                {"model": "Aldine N3", "serial": "7K-0990-SX", "sizeBytes": 512110190592, "partitions": [
                  {"number": 1, "startBytes": 1048576, "sizeBytes": 272629760, "type": "C12A7328-F81F-11D2-BA4B-00A0C93EC93B", 
                  "fileSystem": "vfat", "usedBytes": 33000000},
                  {"number": 2, "startBytes": 273678336, "sizeBytes": 511000000000, "type": "EBD0A0A2-B9E5-4433-87C0-68B6B72699C7", 
                  "fileSystem": "ntfs", "usedBytes": 88000000000}]}]}]}
            """);
        button(page, "Show what would change").click();
        assertThat(page.locator(".summary")).containsText("2 computers and 2 disks reported. 3 changes, 1 to look at twice.");
        assertThat(page.locator("tr", new Page.LocatorOptions().setHasText("disk swapped")))
            .containsText("Halden S1 22-HS-0250, 250 GB was swapped for Halden S3 22-HS-0777, 480 GB");
        button(page, "Accept these changes").click();
        assertThat(page.locator("section", new Page.LocatorOptions().setHasText("SEXTANT"))).containsText("not attached here");
        page.locator("section", new Page.LocatorOptions().setHasText("SEXTANT")).locator("h2 a").click();
        button(page, "Retire").click();
        assertThat(page.locator("main")).containsText("This computer is retired");
        page.navigate(server.url() + "/computers");
        assertThat(page.locator("section h2:not(.section)", new Page.LocatorOptions().setHasText("SEXTANT"))).hasCount(0);
        assertThat(page.getByText("1 retired too")).isVisible();
    }

    @Test
    @Order(5)
    void anImageIsWeighedWithItsWorkingAndMadeByKeyboard() {
        page.keyboard().press("Control+k");
        page.keyboard().type("image meridian");
        page.keyboard().press("Enter");
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("MERIDIAN, system disk"))).isVisible(PATIENTLY);
        assertThat(page.locator(".summary"))
            .containsText(Pattern.compile("About\\s.* GB,\\s.*between .* GB and .* GB\\.\\s+Fits .*PEG-2 is .* short", Pattern.DOTALL));
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
        picture("make-an-image");
        page.keyboard().press("Escape");
        page.getByLabel("Name").fill("has a space");
        button(page, "Make this image").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("The name \"has a space\" cannot be used on every destination");
        page.getByLabel("Name").fill("MERIDIAN-first");
        simulate("slow:peg-1", true); // so that there is something to be seen of the run
        button(page, "Make this image").press("Enter");
        assertThat(page.locator("article h2")).hasText("MERIDIAN-first");
    }

    @Test
    @Order(6)
    void aRunIsWatchedLiveAndAnotherIsStopped() {
        assertThat(page.locator("article")).containsText("Reading, compressing, writing");
        assertThat(page.locator("article")).containsText(Pattern.compile("Done.*GB of .*GB, [2-6][0-9] %", Pattern.DOTALL),
            new LocatorAssertions.ContainsTextOptions().setTimeout(30_000));
        assertThat(page.locator("footer")).containsText("MERIDIAN-first: capturing");
        simulate("slow:peg-1", false);
        assertThat(page.locator("tr", new Page.LocatorOptions().setHasText("MERIDIAN"))).containsText("done",
            new LocatorAssertions.ContainsTextOptions().setTimeout(90_000));
        simulate("slow:cairn", true);
        page.navigate(server.url() + "/make-image/datum-2");
        page.locator("label", new Page.LocatorOptions().setHasText("CAIRN")).locator("input").check();
        assertThat(page.locator("label.unfit", new Page.LocatorOptions().setHasText("SHELF"))).containsText("the disk itself");
        button(page, "Make this image").click();
        button(page, "Stop").click();
        button(page, "Stop this run").click();
        assertThat(page.locator("tr", new Page.LocatorOptions().setHasText("stopped"))).containsText("Stopped as asked",
            new LocatorAssertions.ContainsTextOptions().setTimeout(30_000));
        simulate("slow:cairn", false);
    }

    static Locator newestImage(Page of) {
        return of.locator("tbody.disk", new Page.LocatorOptions().setHasText("MERIDIAN")).locator("tr.image .when a").first();
    }
}
