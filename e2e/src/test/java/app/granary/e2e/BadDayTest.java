package app.granary.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.Media;
import java.util.List;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;

/** The bad day: from the card of a dead computer to its signature; a stick written anew; one image onto four computers. */
class BadDayTest extends OfficeWithAPast {
    private static final LocatorAssertions.IsVisibleOptions PATIENTLY = new LocatorAssertions.IsVisibleOptions().setTimeout(90_000);
    private static final String TYPE = "Type the last four characters of its serial number, read off the disk itself:";

    private void tickAll(Locator section) {
        for (Locator box : section.locator("input[type=checkbox]").all()) {
            box.check();
        }
    }

    @Test
    @Order(1)
    void tripodIsDeadAndBackByLunch() {
        open("/computers");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("TRIPOD")).first().click();
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("If it dies today")).first().click();
        assertThat(page.getByText("KEY-A, drawer of the bench").first()).isVisible();
        page.getByText("Bring it back now").click();
        choose("Image to bring back", "on CAIRN");
        page.getByLabel("Spare 2").check();
        theEndOfMainIsDrawn();
        assertThat(page.getByLabel("Runbook")).containsText("switch encryption on again");
        button("0 B").click();
        assertThat(page.getByText("Where every byte goes")).isVisible();
        page.keyboard().press("Escape");
        page.emulateMedia(new Page.EmulateMediaOptions().setMedia(Media.PRINT));
        glance(page, "runbook");
        page.emulateMedia(new Page.EmulateMediaOptions().setMedia(Media.SCREEN));
        page.getByLabel(TYPE).fill("0561");
        button("Overwrite this disk").click();
        assertThat(page.getByText("Nothing was written. Read them off the disk itself, and type them.")).isVisible();
        page.getByLabel(TYPE).fill("0560");
        page.getByLabel(TYPE).press("Enter");
        assertThat(button("Sign: TRIPOD is back")).isVisible(PATIENTLY);
        assertThat(page.getByText("read back and equal")).isVisible();
        button("Sign: TRIPOD is back").click();
        assertThat(page.getByText("Not looked at yet:")).isVisible();
        tickAll(page.locator("section.one").first());
        button("Sign: TRIPOD is back").click();
        assertThat(button("Sign: TRIPOD is back")).hasCount(0);
        open("/journal");
        assertThat(page.getByText("TRIPOD is back from").first()).isVisible();
        Object id = page.evaluate(
            "fetch('/api/v1/images/page?text=TRIPOD').then(r => r.json()).then(p => p.lines.find(i => i.destination === 'CAIRN').id)");
        open("/images/" + id);
        assertThat(page.getByText("Restored onto Spare 2 for TRIPOD").first()).isVisible();
    }

    private void theEndOfMainIsDrawn() {
        Locator end = page.getByRole(AriaRole.SLIDER, new Page.GetByRoleOptions().setName("End of main"));
        end.press("PageUp");
        assertThat(end).hasAttribute("aria-valuetext", "121 GB");
        assertThat(button("by hand")).hasAttribute("aria-pressed", "true");
        double at = end.boundingBox().x + 7;
        page.mouse().move(at, end.boundingBox().y + 12);
        page.mouse().down();
        page.mouse().move(at + 2000, end.boundingBox().y + 12); // far beyond its bound
        page.mouse().up();
        assertThat(end).hasAttribute("aria-valuetext", java.util.regex.Pattern.compile("46\\d GB"));
        button("the main partition").click();
        assertThat(page.getByText("82.4 GB becomes 463 GB")).isVisible();
    }

    @Test
    @Order(2)
    void aStickIsWrittenAndTried() {
        open("/rescue-media");
        assertThat(page.getByText("6 of 9 computers are known to start from one of 2 media.")).isVisible();
        pictures("rescue-media");
        Locator keyA = page.locator("article.medium").filter(new Locator.FilterOptions().setHasText("KEY-A")).first();
        assertThat(page.getByText("In use for 4 years: have a new one ready.")).isVisible();
        assertThat(keyA.locator("tr").filter(new Locator.FilterOptions().setHasText("TRIPOD"))).containsText("started, 80 days ago");
        keyA.getByText("Write it…").click();
        page.getByLabel("larch-rescue-13.iso").check();
        page.locator(".write").getByLabel("KEY-A").check();
        page.getByLabel(TYPE).fill("000B");
        button("Overwrite this stick").click();
        assertThat(page.getByText("does not match")).isVisible();
        page.getByLabel(TYPE).fill("000a");
        button("Overwrite this stick").click();
        assertThat(page.getByText("LARCH_RESCUE_13").first()).isVisible(PATIENTLY);
        assertThat(page.getByText("It was written since it was last tried.").first()).isVisible(PATIENTLY);
        choose("Computer tried with KEY-A", "TRIPOD");
        keyA.getByText("It started").click();
        assertThat(page.getByText("2 of 9 computers are known to start")).isVisible();
        keyA.getByText("Keep its image").click();
        assertThat(page.getByText("KEY-A.img").first()).isVisible(PATIENTLY);
        page.getByLabel("Name on its label").fill("KEY-C");
        page.getByLabel("Serial", new Page.GetByLabelOptions().setExact(true)).fill("TS-16-000C");
        page.getByLabel("part of the spare set").check();
        button("Register it").click();
        Locator spare = page.locator("article.medium").filter(new Locator.FilterOptions().setHasText("KEY-C")).last();
        spare.getByText("Write it…").click();
        spare.getByLabel("KEY-A.img").check();
        spare.locator(".write").getByLabel("KEY-C").check();
        spare.getByLabel(TYPE).fill("000C");
        button("Overwrite this stick").click();
        assertThat(spare.getByText("LARCH_RESCUE_13").first()).isVisible(PATIENTLY);
    }

    @Test
    @Order(3)
    void oneImageGoesOntoFourComputers() {
        open("/rollouts");
        choose("Reference image", "GNOMON");
        assertThat(page.getByText("Tick the disks it goes onto.")).isVisible();
        page.getByText("disks that are built into computers").click();
        List<String> names = List.of("ROD-1", "ROD-2", "ROD-3", "ROD-4");
        for (String name : names) {
            page.getByLabel(name + " system disk", new Page.GetByLabelOptions().setExact(true)).check();
            page.getByLabel("Computer of " + name + " system disk").fill(name);
        }
        assertThat(page.getByLabel("Name of the rollout")).hasValue("GNOMON");
        page.getByLabel("Name of the rollout").fill("plotter controllers");
        button("Create the rollout").click();
        assertThat(page.getByText("0 of 4 signed; its image is kept until it is ended.")).isVisible();
        writeAll(names);
        signAll(names);
        open("/rollouts");
        assertThat(page.getByText("4 of 4 signed; its image is kept until it is ended.")).isVisible();
        page.getByText("end it", new Page.GetByTextOptions().setExact(true)).click();
        assertThat(page.getByText("4 of 4 signed; ended.")).isVisible();
        assertTrue(page.locator("h2").first().innerText().contains("plotter controllers"));
    }

    private void writeAll(List<String> names) {
        for (String name : names) {
            Locator row = page.locator("tr")
                .filter(new Locator.FilterOptions().setHas(page.getByText(name, new Page.GetByTextOptions().setExact(true)))).first();
            row.getByText("Write it…").click();
            page.getByLabel(TYPE).fill(switch (name) {
                case "ROD-1" -> "1-R1";
                case "ROD-2" -> "2-R2";
                case "ROD-3" -> "3-R3";
                default -> "4-R4";
            });
            button("Overwrite the disk of " + name).click();
            assertThat(page.getByLabel(TYPE)).hasCount(0);
        }
        assertThat(page.getByText("look at it and sign on the Restore page")).hasCount(4,
            new LocatorAssertions.HasCountOptions().setTimeout(90_000));
    }

    private void signAll(List<String> names) {
        open("/restore");
        for (String name : names) {
            Locator section = page.locator("section.one").filter(new Locator.FilterOptions().setHasText(name + ":"));
            assertThat(section.getByText("Sign: " + name + " is back")).isVisible();
            tickAll(section);
            section.getByText("Sign: " + name + " is back").click();
            assertThat(section).hasCount(0);
        }
    }

    /** Two spares in a dock that gives both one serial, and a disk in an adapter that gives none. */
    @Test
    @Order(4)
    void disksThatCannotBeToldAreTold() {
        simulate("alike:spare-3", true);
        open("/restore");
        choose("Computer to bring back", "GNOMON");
        choose("Image to bring back", "readable");
        assertThat(page.getByText("it cannot be told which would be overwritten")).hasCount(2);
        page.getByLabel("Tell which disk Spare 3 is").click();
        assertThat(page.getByText("Unplug the disk you mean now.")).isVisible();
        simulate("unplug:spare-3", true);
        assertThat(page.getByText("It is gone. Plug it in again.")).isVisible();
        simulate("unplug:spare-3", false);
        assertThat(page.locator("input[value='spare-3']")).isChecked();
        simulate("alike:spare-3", false);
        simulate("adapter:contour-2", true);
        open("/computers");
        page.getByText("Read the disks again").click();
        assertThat(page.getByText("One attached disk does not tell which it is")).isVisible();
        choose("Which disk the disk in the adapter is", "CONTOUR, disk 2, mapping");
        button("Confirm").click();
        assertThat(page.getByText("does not tell which it is")).hasCount(0);
        simulate("adapter:contour-2", false);
    }

    /** A disk of 1 TB onto one of 500 GB; then one partition of it again, between the others, which stay. */
    @Test
    @Order(6)
    void aLargerDiskGoesOntoASmallerOneAndOnePartitionBetweenOthers() {
        open("/restore");
        choose("Computer to bring back", "MERIDIAN");
        choose("Image to bring back", "readable");
        page.getByLabel("Spare 2").check();
        assertThat(page.getByText("must be made 502 GB smaller, down to 349 GB").first()).isVisible();
        assertThat(button("Overwrite this disk")).hasCount(0);
        button("Make it smaller on the way").click();
        assertThat(page.getByText("which has").first()).containsText("scratch file of at most");
        assertThat(page.locator("main")).not().containsText("Reading what is on it");
        pictures("restore");
        page.getByLabel(TYPE).fill("0560");
        button("Overwrite this disk").click();
        Locator done = page.locator("section.one").filter(new Locator.FilterOptions().setHasText("MERIDIAN:"));
        assertThat(done.getByText("was made smaller, and is sound").first()).isVisible(new LocatorAssertions.IsVisibleOptions()
            .setTimeout(300_000));
        assertThat(page.getByText("and nobody has signed it yet").first()).isVisible();
        tickAll(done.first());
        done.getByText("Sign: MERIDIAN is back").click();
        assertThat(done).hasCount(0);
        page.getByLabel("Spare 2").check();
        page.getByLabel("only some partitions").check();
        assertThat(page.getByText("Choose at least one.")).isVisible();
        page.getByLabel("1: firmware").check();
        assertThat(page.getByText("On this disk, firmware will be overwritten")).isVisible();
        assertThat(page.locator(".work")).containsText("349 GB, stays");
        page.getByLabel(TYPE).fill("0560");
        button("Overwrite what is chosen").click();
        assertThat(done.first().getByText("read back and equal")).isVisible(PATIENTLY);
        open("/journal");
        assertThat(page.getByText("confirmed partition 1 (\"firmware\") of Spare 2").first()).isVisible();
    }
}
