package app.granary.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;

/** What goes wrong at night and what is done about it: a pulled drive, a flipped byte, a killed server. */
class ProofAndRunsTest extends BrowserTest {
    private static final LocatorAssertions.ContainsTextOptions PATIENTLY = new LocatorAssertions.ContainsTextOptions().setTimeout(90_000);

    @Override
    RunningServer begin() throws IOException {
        return RunningServer.office();
    }

    @Override
    void entered() {
        signIn();
    }

    private Locator runRow(String text) {
        return page.locator("tr", new Page.LocatorOptions().setHasText(text)).first();
    }

    private void capture(String disk, String drive, String name) {
        page.navigate(server.url() + "/make-image/" + disk);
        page.locator("label", new Page.LocatorOptions().setHasText(drive)).locator("input")
            .check(new Locator.CheckOptions().setTimeout(60_000));
        page.getByLabel("Name").fill(name);
        button("Make this image").click();
        // a sample is taken anew before a capture begins, while the page still samples its other choices
        assertThat(page.locator("article h2")).hasText(name, new LocatorAssertions.HasTextOptions().setTimeout(60_000));
    }

    private void turn(String what) {
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Simulated devices")).click();
        page.getByLabel(what).click();
    }

    @Test
    @Order(1)
    void aPulledDriveStopsTheRunWithASentenceAndIsCarriedOn() {
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Simulated devices")).click();
        assertThat(page.getByLabel("PEG-1: pulled out without a word")).isVisible();
        simulate("slow:peg-1", true); // so that there is something to be seen of a run
        capture("meridian", "PEG-1", "MERIDIAN-second");
        assertThat(page.locator("article")).containsText(Pattern.compile("Done.*, [2-9][0-9] %", Pattern.DOTALL), PATIENTLY);
        button("Hold").click();
        assertThat(page.locator("article")).containsText("Held");
        button("Go on").click();
        assertThat(page.locator("article")).containsText("Reading, compressing, writing");
        turn("PEG-1: pulled out without a word");
        page.keyboard().press("Alt+5");
        assertThat(runRow("failed")).containsText(
            "Writing to PEG-1 failed: Input/output error. No image was made; the disk and the older images are untouched.", PATIENTLY);
        turn("PEG-1: pulled out without a word");
        page.keyboard().press("Alt+1");
        Locator left = page.locator("article.unfinished");
        assertThat(left).containsText("MERIDIAN-second is not finished", PATIENTLY);
        assertThat(left).containsText("Check the drive and its cable, then carry on.");
        button("Carry on").click();
        assertThat(page.locator("article h2").first()).hasText("MERIDIAN-second");
        assertThat(page.locator("article").first()).containsText(Pattern.compile("Done.*, [4-9][0-9] %", Pattern.DOTALL), PATIENTLY);
        pictures("runs");
        simulate("slow:peg-1", false);
        assertThat(runRow("done")).containsText("MERIDIAN", PATIENTLY);
        runRow("done").click();
        assertThat(page.locator("h1")).hasText("MERIDIAN-second");
        assertThat(page.locator("section").first()).containsText("readable: every digest matches and every frame decodes");
    }

    @Test
    @Order(2)
    void aFlippedByteIsSeenOnTheStripWithItsFilesAndMendedFromTheCopy() {
        capture("datum-1", "PEG-1", "DATUM-first");
        assertThat(runRow("DATUM")).containsText("done", PATIENTLY);
        runRow("DATUM").click();
        choose("Copy to", "CAIRN");
        button("Copy it there").click();
        assertThat(runRow("Copy")).containsText("done", PATIENTLY);
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Simulated devices")).click();
        button("Trigger: one byte of its newest image flips").first().click();
        page.keyboard().press("Alt+6");
        page.locator("tbody.disk", new Page.LocatorOptions().setHasText("DATUM")).locator("a.copy")
            .filter(new Locator.FilterOptions().setHasText("PEG-1")).click();
        assertThat(page.locator("h1")).hasText("DATUM-first");
        button("Check this image").click();
        assertThat(runRow("Check")).containsText("is damaged from byte", PATIENTLY);
        runRow("Check").click();
        assertThat(page.locator(".columns section").first()).containsText("partition");
        assertThat(page.locator(".columns section").first())
            .containsText(Pattern.compile("files? lies? on it|table of files lies there too"));
        assertThat(page.getByLabel(Pattern.compile("The image by partitions: [1-9][0-9]* damaged"))).isVisible();
        assertThat(page.locator("main")).containsText("can still be restored");
        pictures("image");
        button("Repair it from CAIRN").click();
        assertThat(runRow("Repair")).containsText("done", PATIENTLY);
        runRow("Repair").click();
        assertThat(page.getByLabel("The image by partitions: no damage known")).isVisible();
        page.getByLabel("rehearsed").check();
        button("Check this image").click();
        assertThat(runRow("Check")).containsText("done", PATIENTLY);
        page.keyboard().press("Alt+6");
        assertThat(page.getByLabel("Proof: complete, sound, readable, rehearsed").first()).isVisible();
    }

    @Test
    @Order(3)
    void anEncryptedImageNeedsItsPassphraseTwiceAndThenEachTimeItIsRead() {
        page.navigate(server.url() + "/make-image/gnomon");
        page.locator("label", new Page.LocatorOptions().setHasText("CAIRN")).locator("input")
            .check(new Locator.CheckOptions().setTimeout(60_000));
        page.getByLabel("with a passphrase").check();
        page.getByLabel("Passphrase", new Page.GetByLabelOptions().setExact(true)).fill("tarn and fell");
        page.getByLabel("Passphrase, once more").fill("tarn and fall");
        assertThat(page.locator("main")).containsText("These are not the same.");
        assertThat(button("Make this image")).isDisabled();
        page.getByLabel("Passphrase, once more").fill("tarn and fell");
        page.getByLabel("Name").fill("GNOMON-secret");
        button("Make this image").click();
        assertThat(runRow("GNOMON")).containsText("done", PATIENTLY);
        runRow("GNOMON").click();
        assertThat(page.locator("main")).containsText("encrypted with a passphrase");
        assertThat(button("Check this image")).isDisabled();
        page.getByLabel("Passphrase", new Page.GetByLabelOptions().setExact(true)).fill("another");
        button("Check this image").click();
        assertThat(runRow("failed")).containsText("The passphrase does not open", PATIENTLY);
    }

    @Test
    @Order(4)
    void anImageMadeElsewhereIsFoundAddedAndProvenFromTheKeyboard() {
        page.keyboard().press("Control+k");
        page.keyboard().type("made elsewhere");
        page.keyboard().press("Enter");
        assertThat(page.locator("h1")).hasText("Add an image made elsewhere");
        page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("It lies on")).press("ArrowDown");
        page.getByRole(AriaRole.OPTION, new Page.GetByRoleOptions().setName("CAIRN").setExact(true)).click(); // there once the drives are
                                                                                                              // known
        page.getByLabel("in the folder, and below it").fill("../peg-1");
        page.keyboard().press("Enter");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("is no folder of that destination");
        page.getByLabel("in the folder, and below it").fill("");
        page.keyboard().press("Enter");
        Locator ledger = page.locator("article", new Page.LocatorOptions().setHasText("ledger-before-update.img.gz"));
        assertThat(ledger).containsText("with digests. Inside: GPT, 3 partitions", PATIENTLY);
        assertThat(ledger).containsText("Of LEDGER: the partition table in it carries that disk's identity.");
        glance(page, "elsewhere");
        ledger.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Add and check it")).press("Enter");
        assertThat(ledger).containsText("On the shelf.");
        page.keyboard().press("Alt+5");
        assertThat(runRow("LEDGER")).containsText("done", PATIENTLY);
        runRow("LEDGER").click();
        assertThat(page.locator("section").first()).containsText("readable: all of it unpacks");
        page.keyboard().press("Alt+8");
        page.locator(".opener", new Page.LocatorOptions().setHasText("LEDGER")).click();
        assertThat(page.locator("section.disk", new Page.LocatorOptions().setHasText("LEDGER")))
            .containsText("Kept: the newest proven image of its disk, which never goes.");
    }

    @Test
    @Order(5)
    void afterAKillTodaySaysWhatHappenedAndOffersToCarryOn() throws IOException {
        simulate("slow:cairn", true);
        capture("datum-2", "CAIRN", "DATUM-second");
        assertThat(page.locator("article")).containsText(Pattern.compile("Done.*, [1-9][0-9] %", Pattern.DOTALL), PATIENTLY);
        page.navigate("about:blank");
        server = server.killAndStartAgain("--granary.demo=true", "--granary.pace=1", "--granary.those-here-after=86400000");
        signIn();
        Locator left = page.locator("article.unfinished");
        assertThat(left).containsText("Granary was ended while this ran. What was written is kept on CAIRN; carry it on, or discard it.",
            PATIENTLY);
        button("Carry on").click();
        assertThat(page.locator("article h2").first()).hasText("DATUM-second");
        button("Stop").click();
        button("Stop this run").click();
        assertThat(runRow("stopped")).containsText("as an unfinished capture", PATIENTLY);
        button("Discard").click();
        button("Discard what was written").click();
        assertThat(page.locator("article.unfinished")).hasCount(0, new LocatorAssertions.HasCountOptions().setTimeout(30_000));
    }

    private void openCopy(String computer, String drive, String image) {
        open("/images");
        page.locator("tbody.disk", new Page.LocatorOptions().setHasText(computer)).locator("a.copy")
            .filter(new Locator.FilterOptions().setHasText(drive)).first().click();
        assertThat(page.locator("h1")).hasText(image);
    }

    /** What is fetched is held against what debugfs (e2fsprogs) reads of the same disk. */
    @Test
    @Order(6)
    void anImageIsLookedIntoAndAFileFetched() throws Exception {
        capture("datum-1", "PEG-1", "DATUM-again");
        assertThat(runRow("DATUM")).containsText("done", PATIENTLY);
        openCopy("DATUM", "PEG-1", "DATUM-again");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Look into it")).click();
        assertThat(page.locator("h1")).containsText("In DATUM’s image of", PATIENTLY);
        button("home").click();
        assertThat(page.locator("main")).containsText("entries");
        page.keyboard().press("/");
        page.keyboard().type("13");
        assertThat(page.locator("main")).containsText("names have “13” in them");
        page.locator("[data-row]").first().press("Enter");
        assertThat(page.locator("aside h2")).hasText("13");
        Locator others = page.locator("aside table").first();
        assertThat(others).containsText("same", PATIENTLY); // as DATUM-first has it
        page.getByLabel("Find a name").fill("");
        assertThat(page.locator("[data-row]")).hasCount(20);
        pictures("inside");
        Download fetched = page.waitForDownload(() -> button("Fetch it to this computer").click());
        Path mine = server.home().resolve("fetched");
        fetched.saveAs(mine);
        Process theirs = new ProcessBuilder("bash", "-c", "export PATH=$PATH:/usr/sbin:/sbin; tail -c +$((18432 * 512 + 1)) "
            + server.home() + "/office/disks/datum-1.img > " + mine + ".part && debugfs -R 'cat /home/13' " + mine
            + ".part 2> " + mine + ".said | cmp - " + mine).inheritIO().start();
        assertEquals(0, theirs.waitFor());
        choose("or put it onto", "CAIRN");
        button("Copy it there").click();
        assertThat(page.locator("aside")).containsText(Pattern.compile("On CAIRN, in granary-fetched/.*: 13\\."));
        page.getByLabel("Find a name").fill("13");
        button("Look in the whole partition").click();
        assertThat(page.locator("main")).containsText("of the whole partition.", PATIENTLY);
        open("/journal");
        assertThat(page.locator("main")).containsText(Pattern.compile("technician fetched 2:/home/13, 307 kB, from image DATUM-again onto "
            + "CAIRN"));
    }

    @Test
    @Order(7)
    void anEncryptedImageOpensOnceAndRunsAsAVirtualComputer() throws Exception {
        openCopy("GNOMON", "CAIRN", "GNOMON-secret");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Look into it")).click();
        assertThat(page.locator("main")).containsText("This image is encrypted.", PATIENTLY);
        page.getByLabel("Passphrase", new Page.GetByLabelOptions().setExact(true)).fill("another");
        button("Open it").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("does not open");
        page.getByLabel("Passphrase", new Page.GetByLabelOptions().setExact(true)).fill("tarn and fell");
        button("Open it").click();
        assertThat(button("plots")).isVisible();
        page.goBack();
        button("Start it as a virtual computer").click();
        assertThat(page.locator("main")).containsText("Running as a virtual computer", PATIENTLY);
        String screen = page.locator(".served code").first().textContent();
        try (Socket vnc = new Socket("127.0.0.1", Integer.parseInt(screen.split(":")[1]))) {
            assertEquals("RFB 003.008", new String(vnc.getInputStream().readNBytes(11), StandardCharsets.US_ASCII)); // RFC 6143, 7.1.1
        }
        glance(page, "served");
        whatItLeftGoesOntoASpare(screen.split(":")[1]);
        button("Switch it off and discard its changes").click();
        button("Discard the changes").click();
        button("Serve it as a disk").click();
        assertThat(page.locator(".served")).containsText("nbd://127.0.0.1:");
        button("End serving it").click();
        assertThat(button("Serve it as a disk")).isVisible();
    }

    /** The computer is switched off by its window, and what it wrote is not lost: its disk goes onto a spare. */
    private void whatItLeftGoesOntoASpare(String port) {
        String display = "127.0.0.1:" + (Integer.parseInt(port) - 5900);
        ProcessHandle.allProcesses().filter(each -> each.info().commandLine().orElse("").contains("qemu-system")
            && each.info().commandLine().orElse("").contains(display)).forEach(ProcessHandle::destroyForcibly);
        page.reload();
        assertThat(page.locator(".served")).containsText("Switched off", PATIENTLY);
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Write its disk, with what it changed, onto a spare")).click();
        page.getByLabel("Spare 3").check();
        page.getByLabel("Type the last four characters of its serial number, read off the disk itself:").fill("4-SM");
        button("Overwrite this disk").click();
        assertThat(page.locator("section.one").filter(new Locator.FilterOptions().setHasText("GNOMON:")).first())
            .containsText("Sign: GNOMON is back", PATIENTLY);
        openCopy("GNOMON", "CAIRN", "GNOMON-secret");
    }

    @Test
    @Order(8)
    void theOutboxSaysWhatBelongsThere() {
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Outbox")).click();
        assertThat(page.locator("main")).containsText("One mail comes here for every night");
        assertEquals(List.of(), browser.complaints());
    }
}
