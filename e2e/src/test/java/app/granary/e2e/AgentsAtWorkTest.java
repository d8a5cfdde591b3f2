package app.granary.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;

import app.granary.standins.Cable;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import java.io.IOException;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;

/**
 * An office without disks of its own, and two computers without Java that join by the unpacked archive: each is captured by order, one is
 * restored, and the network is cut in the middle of each.
 */
class AgentsAtWorkTest extends BrowserTest {
    private static final LocatorAssertions.IsVisibleOptions PATIENTLY = new LocatorAssertions.IsVisibleOptions().setTimeout(120_000);
    private static final String TYPE = "Type the last four characters of its serial number, read off the disk itself:";
    private static final String PASSWORD = "four plain words here";

    private final List<Process> agents = new ArrayList<>();
    private Cable cable;
    private Path folder;
    private String[] options;

    @Override
    RunningServer begin() throws IOException {
        int port;
        try (ServerSocket free = new ServerSocket(0)) {
            port = free.getLocalPort();
        }
        cable = new Cable(port, 50_000_000);
        folder = RunningServer.newHome();
        options = new String[] {"--granary.device-types=none", "--granary.listen=127.0.0.1:" + port,
            "--granary.agent-archive=" + Build.folder().resolve("granary-agent.tar.gz"), "--granary.promised-after=86400000"};
        return RunningServer.start(home(), options);
    }

    /** Its path stands in pictures. */
    private static Path home() throws IOException {
        return Files.createTempDirectory(Path.of("/tmp"), "granary-");
    }

    @Override
    void entered() {
        page.navigate(server.printed());
        page.getByLabel("Name").fill("Ada");
        page.getByLabel("Password", new Page.GetByLabelOptions().setExact(true)).fill(PASSWORD);
        page.getByLabel("Password again").fill(PASSWORD);
        page.keyboard().press("Enter");
        assertThat(page.locator("h1")).hasText("The first day");
    }

    @AfterAll
    void endAgents() throws IOException {
        agents.forEach(Process::destroy);
        cable.close();
    }

    private String shell(String line) throws IOException {
        Process process = new ProcessBuilder("bash", "-ec", "export PATH=$PATH:/usr/sbin:/sbin; " + line).directory(folder.toFile())
            .redirectErrorStream(true).start();
        String out = new String(process.getInputStream().readAllBytes(), java.nio.charset.StandardCharsets.UTF_8);
        try {
            assertEquals(0, process.waitFor(), line + "\n" + out);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
        return out;
    }

    /** A disk with one ext4 file system that holds what does not shrink, and a spare without anything. */
    private void computer(String name, int megabytes) throws IOException {
        shell("mkdir -p %1$s/in %1$s/%1$s-DRIVE; head -c %2$dM /dev/urandom > %1$s/in/survey.dat; truncate -s 640M %1$s/%1$s-disk.img; "
            .formatted(name, megabytes)
            + "sgdisk -n 1:2048:+600M -c 1:system %1$s/%1$s-disk.img; truncate -s 700M %1$s/%1$s-spare.img; "
                .formatted(name)
            + "mkfs.ext4 -q -F -E offset=1048576 -d %1$s/in %1$s/%1$s-disk.img 600M".formatted(name));
    }

    /** As the page says, but by the cable that can be pulled. */
    private void join(String name) throws IOException {
        open("/computers");
        button("Let a computer join").click();
        String command = page.locator("code").last().innerText();
        String digits = page.locator(".agents p b").innerText().replace(" ", "");
        assertEquals(digits, shell("sha256sum " + Build.folder().resolve("granary-agent.tar.gz")).substring(0, 20));
        String line = command.substring(command.indexOf("granary-agent/granary-agent")).replaceAll("127\\.0\\.0\\.1:\\d+",
            "127.0.0.1:" + cable.port());
        List<String> words = new ArrayList<>(List.of(line.split(" ")));
        words.set(0, folder.resolve(name).resolve("granary-agent/granary-agent").toString());
        words.addAll(List.of("--name", name, "--only-these", "--disk", name + "-disk.img", "--disk", name + "-spare.img", "--drive",
            name + "-DRIVE"));
        ProcessBuilder agent = new ProcessBuilder(words).directory(folder.resolve(name).toFile()).redirectErrorStream(true)
            .redirectOutput(folder.resolve(name + ".log").toFile());
        agent.environment().clear();
        agent.environment().put("PATH", folder.resolve("bin").toString());
        agents.add(agent.start());
        assertThat(page.locator(".agents tr").filter(new com.microsoft.playwright.Locator.FilterOptions().setHasText(name)))
            .containsText("here, by its agent, since", new LocatorAssertions.ContainsTextOptions().setTimeout(30_000));
    }

    private String ask(String path, String expression) {
        return String.valueOf(page.evaluate("fetch('" + path + "').then(r => r.json()).then(all => " + expression + ")"));
    }

    private String until(String path, String expression) {
        for (int i = 0; i < 1200; i++) {
            String now = ask(path, expression);
            if (!now.equals("null") && !now.equals("undefined") && !now.equals("false")) {
                return now;
            }
            page.waitForTimeout(100);
        }
        throw new AssertionError(path + " " + expression + " " + ask(path, "JSON.stringify(all)"));
    }

    private void cut(int millis) throws IOException {
        cable.pull();
        page.waitForTimeout(millis);
        cable.plug();
    }

    @Test
    @Order(1)
    void twoComputersWithoutJavaAppear() throws IOException {
        shell("mkdir bin; for each in sh dirname lsblk cat uname findmnt mkfs.ext4 dmidecode; do "
            + "command -v $each > /dev/null && ln -s $(command -v $each) bin/$each || true; done");
        for (String name : List.of("TRIPOD", "FELL")) {
            computer(name, name.equals("TRIPOD") ? 60 : 40);
            shell("tar -C " + name + " -xf " + Build.folder().resolve("granary-agent.tar.gz"));
            join(name);
        }
        until("/api/v1/computers", "all.computers.filter(c => c.disks.length === 2 && c.disks.every(d => d.attached)).length === 2");
        open("/computers");
        assertThat(page.locator("main")).containsText("TRIPOD-disk.img");
        pictures("computers-agents");
        open("/destinations");
        assertThat(page.locator("main")).containsText("in TRIPOD");
    }

    private void order(String name, String destination, String image) {
        String disk = ask("/api/v1/computers", "all.computers.find(c => c.name === '" + name + "').disks.find(d => d.name === '" + name
            + "-disk.img').id");
        open("/make-image/" + disk);
        page.locator("label", new Page.LocatorOptions().setHasText(destination)).locator("input").check();
        assertThat(page.locator(".choices")).not().containsText("sampling", new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
        if (name.equals("TRIPOD")) {
            glance(page, "make-image-agent");
        }
        if (!image.isEmpty()) {
            page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill(image);
        }
        button("Make this image").click();
        assertThat(page.locator("main")).containsText(name);
    }

    @Test
    @Order(2)
    void oneIsCapturedToTheOfficeTheOtherToItsOwnDriveAndTheNetworkIsCut() throws IOException {
        order("TRIPOD", "Granary's folder", "");
        order("FELL", "FELL-DRIVE", "");
        open("/runs");
        page.waitForTimeout(1_000);
        pictures("runs-agents");
        cut(3_000);
        until("/api/v1/runs", "all.filter(r => r.state === 'done' && r.kind === 'capture').length === 2 || all.lines?.length === 2");
        shell("cd " + server.home() + "/images/*TRIPOD* && sha256sum -c manifest-sha256.txt && zstd -t data/*zst*");
        shell("cd FELL/FELL-DRIVE/granary-images/*FELL* && sha256sum -c manifest-sha256.txt && zstd -t data/*zst*");
    }

    @Test
    @Order(3)
    void oneIsRestoredOntoAnEmptyDiskAtItsComputer() throws IOException {
        open("/restore");
        choose("Computer to bring back", "TRIPOD");
        choose("Image to bring back", "Granary's folder");
        page.getByLabel("TRIPOD-spare.img").check();
        page.getByLabel(TYPE).fill(".xxx");
        button("Overwrite this disk").click();
        assertThat(page.getByText("Nothing was written. Read them off the disk itself, and type them.")).isVisible();
        page.getByLabel(TYPE).fill(".img");
        page.getByLabel(TYPE).press("Enter");
        page.waitForTimeout(1_500);
        cut(3_000);
        assertThat(page.getByText("read back and equal")).isVisible(PATIENTLY);
        shell("sgdisk -v TRIPOD/TRIPOD-spare.img | grep 'No problems found'; dd if=TRIPOD/TRIPOD-spare.img of=part.img bs=1M skip=1 "
            + "count=600 conv=sparse status=none; e2fsck -fn part.img; debugfs -R 'dump survey.dat out' part.img; "
            + "cmp out TRIPOD/in/survey.dat");
        assertEquals(List.of(), browser.complaints());
    }

    /** The office is killed while a computer makes an image on its own drive, and hears what came of it when it is back. */
    @Test
    @Order(4)
    void whatGoesOnAtAComputerWhileTheOfficeIsAwayIsHeardOf() throws IOException {
        String before = ask("/api/v1/runs", "all.length");
        order("FELL", "FELL-DRIVE", "FELL-again");
        until("/api/v1/runs/live", "all.some(r => r.doneBytes > 0)");
        long agent = agents.get(1).pid();
        shell("kill -STOP " + agent);
        page.navigate("about:blank");
        server = server.killAndStartAgain(options);
        signIn(page, server.url(), "Ada", PASSWORD);
        assertThat(page.locator("h1")).hasText("Today");
        assertEquals("FELL", ask("/api/v1/runs", "all.find(r => r.state === 'running')?.computer"), "it is under way still");
        shell("kill -CONT " + agent);
        until("/api/v1/runs", "all.filter(r => r.state === 'done').length === " + before + " + 1");
        assertEquals("0", ask("/api/v1/runs", "all.filter(r => r.state === 'failed').length"));
        shell("cd FELL/FELL-DRIVE/granary-images && test $(ls -d */ | wc -l) = 2 && for each in */; do "
            + "(cd $each && sha256sum -c --quiet manifest-sha256.txt && zstd -tq data/*zst*); done");
        assertEquals("2", ask("/api/v1/shelf", "all.disks.find(d => d.computer === 'FELL').images"), "no image is one nobody knows");
        assertEquals(List.of(), browser.complaints());
    }
}
