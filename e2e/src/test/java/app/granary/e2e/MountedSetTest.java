package app.granary.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/**
 * The page over real devices of this machine: two loop devices that hold one btrfs, mounted through the first of them. The second is in no
 * list of mounts, and whether it is in use is the kernel's own word (open(2), "O_EXCL").
 */
@Tag("large")
class MountedSetTest extends BrowserTest {
    private static final String TYPE = "Type the last four characters of its name, read off the disk itself:";
    private final List<String> undo = new ArrayList<>();
    private Path folder;
    private String one;
    private String two;
    private String blank;

    @Override
    RunningServer begin() throws IOException {
        folder = Files.createTempDirectory(Files.createDirectories(Path.of("target")), "set").toAbsolutePath();
        if (!sh("[ $(id -u) = 0 ] && losetup -f > /dev/null 2>&1 && echo yes || echo no").equals("yes")) {
            System.out.println("MountedSetTest is skipped: this account may make no loop devices here");
            Assumptions.abort("no loop devices here");
        }
        one = loop("one", 150);
        two = loop("two", 151);
        blank = loop("blank", 152);
        sh("mkfs.btrfs -q -f " + one + " " + two + "; mkdir mnt");
        undo.add("! mountpoint -q mnt || umount mnt");
        Path home = RunningServer.newHome();
        sh("mkdir -p " + home + "/disks; truncate -s 40M " + home + "/disks/plotter.img; mkfs.ext4 -q -F " + home + "/disks/plotter.img");
        return RunningServer.start(home, "--granary.device-types=disk,loop");
    }

    /** Of different sizes, since two that say nothing but one size cannot be told apart. */
    private String loop(String name, int mebibytes) throws IOException {
        String loop = sh("truncate -s " + mebibytes + "M " + name + "; losetup -f --show " + name);
        undo.add("losetup -d $(losetup -j " + folder.resolve(name) + " -O NAME -n)");
        return loop;
    }

    private String sh(String script) throws IOException {
        Process shell = new ProcessBuilder("bash", "-c", "set -eo pipefail; export LC_ALL=C PATH=$PATH:/usr/sbin:/sbin; " + script)
            .directory(folder.toFile()).redirectErrorStream(true).start();
        String said = new String(shell.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
        try {
            assertEquals(0, shell.waitFor(), () -> script + "\n" + said);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new IOException(stopped);
        }
        return said;
    }

    @AfterAll
    void detach() throws IOException {
        for (int i = undo.size() - 1; i >= 0; i--) {
            sh(undo.get(i) + " 2>&1 || true");
        }
        sh("rm -rf " + folder);
    }

    private Locator row(String device) {
        return page.locator("tr")
            .filter(new Locator.FilterOptions().setHas(page.getByText(device, new Page.GetByTextOptions().setExact(true))));
    }

    /** A loop device gives no serial: which one is meant is told by taking it off and attaching it again. */
    private void tell(String device, String file) throws IOException {
        page.getByLabel("Tell which disk " + device + " is").click();
        assertThat(page.getByText("Unplug the disk you mean now.")).isVisible();
        sh("losetup -d " + device);
        assertThat(page.getByText("It is gone. Plug it in again.")).isVisible();
        sh("losetup " + device + " " + file);
        assertThat(row(device).locator("input")).isChecked();
    }

    private void mount() throws IOException {
        // only for reading, so that the file system itself writes nothing while its members are looked at
        sh("btrfs device scan " + one + " " + two + " > /dev/null 2>&1 || true; mount -o ro,device=" + one + ",device=" + two + " " + one
            + " mnt");
    }

    @Test
    @Order(1)
    void anImageLiesInGranarysFolder() {
        page.navigate(server.printed());
        page.getByLabel("Name").fill("Ada");
        page.getByLabel("Password", new Page.GetByLabelOptions().setExact(true)).fill("four plain words here");
        page.getByLabel("Password again").fill("four plain words here");
        page.keyboard().press("Enter");
        assertThat(page.locator("h1")).hasText("The first day");
        open("/computers");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("plotter.img")).first().click();
        page.getByText("Make an image").first().click();
        page.getByLabel("Granary's folder").check();
        button("Make this image").click();
        open("/images");
        assertThat(page.getByText("plotter.img").first()).isVisible();
    }

    @Test
    @Order(2)
    void aSpareOfTheOtherMemberIsRefused() throws IOException {
        open("/restore");
        choose("Computer to bring back", "");
        page.getByLabel("a spare, from its disk as it is now").check();
        choose("Disk to copy", two);
        page.getByText("disks that are built into computers").click();
        tell(blank, "blank");
        String before = sh("sha256sum < " + blank);
        page.getByLabel(TYPE).fill(blank.substring(blank.length() - 4));
        mount(); // after the page was looked at, before the button is pressed
        button("Overwrite this disk").click();
        assertThat(page.getByRole(AriaRole.ALERT).filter(new Locator.FilterOptions().setHasText("is in use")).first())
            .containsText("Nothing was begun");
        assertEquals(before, sh("sha256sum < " + blank));
        sh("umount mnt");
    }

    @Test
    @Order(3)
    void theOtherMemberOfAMountedSetIsNoTarget() throws IOException {
        open("/restore");
        choose("Computer to bring back", "");
        choose("Image to bring back", "plotter.img");
        page.getByText("disks that are built into computers").click();
        row(two).getByText("what is on it").click();
        assertThat(row(two)).containsText("the whole disk is btrfs");
        tell(two, "two");
        String before = sh("sha256sum < " + two);
        page.getByLabel(TYPE).fill(two.substring(two.length() - 4));
        mount();
        button("Overwrite this disk").click();
        assertThat(page.getByRole(AriaRole.ALERT).filter(new Locator.FilterOptions().setHasText("is in use")).first())
            .containsText("set of disks");
        open("/restore");
        choose("Computer to bring back", "");
        choose("Image to bring back", "plotter.img");
        page.getByText("disks that are built into computers").click();
        assertThat(row(two)).containsText("is in use: this system holds it, as one of a set of disks");
        assertThat(row(two).locator("input")).isDisabled();
        assertEquals(before, sh("sha256sum < " + two));
        assertEquals(List.of(), browser.complaints());
    }
}
