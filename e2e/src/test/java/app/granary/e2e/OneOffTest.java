package app.granary.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;

/** One-off work: a set made in a shell goes onto a disk laid out by hand, a spare is refreshed, a run gets another end. */
class OneOffTest extends OfficeWithAPast {
    private static final LocatorAssertions.IsVisibleOptions PATIENTLY = new LocatorAssertions.IsVisibleOptions().setTimeout(120_000);
    private static final String TYPE = "Type the last four characters of its serial number, read off the disk itself:";

    private Locator section(String text) {
        return page.locator("section.one").filter(new Locator.FilterOptions().setHasText(text)).first();
    }

    private void sign(String computer, String label) {
        Locator section = section(computer + ":");
        section.locator("input[type=checkbox]").all().forEach(Locator::check);
        section.getByText(label).click();
        assertThat(page.getByText(label)).hasCount(0);
    }

    @Test
    @Order(1)
    void aSetMadeInAShellGoesOntoADiskLaidOutByHand() {
        open("/images/elsewhere");
        choose("It lies on", "CAIRN");
        page.getByLabel("in the folder, and below it").fill("old-contour-1");
        button("Search there").click();
        Locator set = page.locator("article", new Page.LocatorOptions().setHasText("sda.sfdisk"));
        assertThat(set).containsText("not there: partition");
        assertThat(set).containsText("Of CONTOUR: the partition table in it carries that disk's identity.");
        pictures("elsewhere");
        set.getByText("Add it", new Locator.GetByTextOptions().setExact(true)).click();
        assertThat(set).containsText("On the shelf.");
        set.getByText("Open it").click();
        assertThat(page.locator("main")).containsText("partly: without");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Look into it")).click();
        assertThat(page.locator("h1")).containsText("In CONTOUR");
        assertThat(page.locator("main")).containsText("hiberfil.sys", new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
        page.goBack();
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Restore it onto a disk")).click();
        page.getByLabel("Spare 2").check();
        assertThat(page.locator(".work")).containsText("not in the image", new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
        button("by hand").click();
        page.getByLabel("New partition").fill("not so good a name");
        button("Add it").click();
        assertThat(page.getByText("1 to 11 letters, digits and hyphens")).isVisible();
        page.getByLabel("New partition").fill("LOFT");
        page.getByLabel("New partition").press("Enter");
        assertThat(page.locator(".halves")).containsText("is made new, empty");
        page.getByLabel("Do not make LOFT").click();
        assertThat(page.getByText("is made new, empty")).hasCount(0);
        page.getByLabel("New partition").fill("LOFT");
        button("Add it").click();
        assertThat(page.locator(".halves")).containsText("is made new, empty");
        glance(page, "by-hand");
        page.getByLabel(TYPE).fill("0560");
        button("Overwrite this disk").click();
        assertThat(button("Sign: CONTOUR is back")).isVisible(PATIENTLY);
        assertThat(section("CONTOUR:")).containsText("LOFT");
        sign("CONTOUR", "Sign: CONTOUR is back");
    }

    @Test
    @Order(2)
    void aSpareIsMadeAndRefreshedAndWrittenOverByNothingElse() {
        open("/restore?computer=GNOMON&disk=gnomon");
        page.getByLabel("Spare 3").check();
        page.getByLabel(TYPE).fill("4-SM");
        button("Overwrite this disk").click();
        assertThat(button("Sign: the spare starts the computer")).isVisible(PATIENTLY);
        sign("GNOMON", "Sign: the spare starts the computer");
        assertThat(section("Spares")).containsText("ready: tried and signed");
        assertThat(page.getByText("the spare of GNOMON").first()).isVisible();
        page.getByLabel("Where Spare 3 lies").fill("in the safe");
        page.getByLabel("Where Spare 3 lies").press("Enter");
        assertThat(section("Spares")).containsText("lies in the safe");
        section("Spares").getByText("refresh it").click();
        assertThat(page.getByText("only what differs from the disk is written")).isVisible();
        page.getByLabel(TYPE).fill("4-SM");
        button("Refresh this spare").click();
        assertThat(section("GNOMON:").getByText("differed and was written; now it is equal")).isVisible(PATIENTLY);
        sign("GNOMON", "Sign: the spare starts the computer");
        assertThat(section("Spares")).containsText("lies in the safe");
        assertThat(section("Spares").locator("tr")).hasCount(1);
    }

    private void onDiscs() {
        choose("Blank discs", "BD-R, 25 GB each");
        button("Make disc folders").click();
        assertThat(page.locator("tbody tr").filter(new Locator.FilterOptions().setHasText("Discs")).first())
            .containsText("done", new LocatorAssertions.ContainsTextOptions().setTimeout(90_000));
        page.goBack();
    }

    private void inAFolderWithAMail() {
        page.getByLabel("Folder").fill("{owner}/{computer}");
        page.getByLabel("Folder").press("Tab");
        assertThat(page.getByText("\"{owner}\" stands for nothing in a folder")).isVisible();
        page.getByLabel("Folder").fill("moves/{computer}");
        page.getByLabel("Folder").press("Tab");
        assertThat(page.getByText("A folder named moves, in it one for each computer. Now: moves/PLUMB")).isVisible();
        page.getByLabel("Mail to").fill("ada@office.example");
        page.getByLabel("parts of 1 GB").check();
        glance(page, "one-off");
    }

    @Test
    @Order(3)
    void aRunGetsAnotherEndWhileItRunsAndItsCommentGoesAlong() {
        simulate("slow:cairn", true);
        open("/make-image/plumb");
        page.locator("label", new Page.LocatorOptions().setHasText("CAIRN")).locator("input")
            .check(new Locator.CheckOptions().setTimeout(60_000));
        page.getByLabel("Comment").fill("before the move");
        inAFolderWithAMail();
        button("Make this image").click();
        Locator mail = page.getByLabel("Mail to, when it has ended");
        assertThat(mail).hasValue("ada@office.example");
        mail.fill("ada@office.example, eve@office.example");
        mail.press("Tab");
        choose("When it has ended well and nothing else waits there, PLUMB", "switch it off");
        simulate("slow:cairn", false);
        open("/journal");
        assertThat(page.getByText("the computer is switched off").first()).isVisible();
        assertThat(page.getByText("PLUMB is switched off, as was asked for.").first()).isVisible(PATIENTLY);
        assertThat(page.getByText("It lies in moves/PLUMB.").first()).isVisible();
        open("/outbox");
        assertThat(page.locator("main")).containsText("Done: image of PLUMB");
        assertThat(page.locator("main")).containsText("ada@office.example, eve@office.example");
        Object id = page.evaluate(
            "fetch('/api/v1/images/page?text=PLUMB').then(r => r.json()).then(p => p.lines.find(i => i.note === 'before the move').id)");
        open("/images/" + id);
        page.getByText("Move it on CAIRN, or give it another name").click();
        page.getByLabel("Folder on that drive").fill("../peg-1");
        button("Move it").click();
        assertThat(page.getByText("is no folder that every drive takes").first()).isVisible();
        page.getByLabel("Folder on that drive").fill("offsite/2026");
        page.getByLabel("Name of the image").fill("PLUMB-before-the-move");
        button("Move it").click();
        assertThat(page.locator("h1")).hasText("PLUMB-before-the-move");
        onDiscs();
        button("Check this image").click();
        assertThat(page.locator("tr.run, tbody tr").filter(new Locator.FilterOptions().setHasText("PLUMB-before-the-move")).first())
            .containsText("done", new LocatorAssertions.ContainsTextOptions().setTimeout(90_000));
        open("/journal");
        assertThat(page.getByText("is laid out for").first()).isVisible();
        assertThat(page.getByText("lies in offsite/2026 on CAIRN now, as PLUMB-before-the-move.").first()).isVisible();
    }
}
