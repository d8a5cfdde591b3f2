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
import java.util.List;
import org.junit.jupiter.api.Test;

/** An office of 500 computers and 1 200 disks in the browser: only what is in view is drawn, and all of it can be reached. */
class ManyComputersTest extends BrowserTest {
    private static final int COMPUTERS = 500;
    private static final int DISKS = 1_200;
    /** Rows of a window of 800 pixels, and some above and below it. */
    private static final int MOST_DRAWN = 40;

    private static String csv() {
        StringBuilder out = new StringBuilder(
            "computer,disk_model,serial,size_bytes,partition,partition_size_bytes,file_system,used_bytes\n");
        for (int i = 0, disk = 0; i < COMPUTERS; i++) {
            for (int most = (i + 1) * DISKS / COMPUTERS; disk < most; disk++) {
                for (int part = 1; part <= 3; part++) {
                    out.append(String.format("PC-%03d,Halden S2,22-HS-%d,500107862016,%d,%d,ntfs,%d%n", i, disk, part, 160_000_000_000L,
                        40_000_000_000L + disk));
                }
            }
        }
        return out.toString();
    }

    @Override
    RunningServer begin() throws IOException {
        return RunningServer.start();
    }

    @Test
    void fiveHundredComputersScrollAsNineDo() {
        page.navigate(server.printed().replace("/?", "/import?"));
        page.getByLabel("Name").fill("Ada");
        page.getByLabel("Password", new Page.GetByLabelOptions().setExact(true)).fill("four plain words here");
        page.getByLabel("Password again").fill("four plain words here");
        page.keyboard().press("Enter");
        page.locator("input[type=file]").setInputFiles(new FilePayload("office.csv", "text/csv", csv().getBytes(StandardCharsets.UTF_8)));
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Show what would change")).click();
        assertThat(page.locator(".summary")).containsText("500 computers and 1200 disks reported. 500 changes.",
            new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Accept these changes")).click();
        assertThat(page.locator(".summary")).containsText(" of 501 computers have a sound image.",
            new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));

        Locator rows = page.locator("section h2:not(.section)");
        assertThat(rows.first()).hasText("PC-000");
        assertTrue(rows.count() <= MOST_DRAWN, rows.count() + " rows are drawn");
        // scrolled to the end frame by frame; the frames are printed as a figure, not judged here
        Object frames = page.evaluate("""
            async () => {
              const main = document.querySelector('main'), times = []
              let last = performance.now()
              for (let at = 0; at < main.scrollHeight; at += 400) {
                main.scrollTop = at
                await new Promise(requestAnimationFrame)
                times.push(performance.now() - last)
                last = performance.now()
              }
              times.sort((a, b) => a - b)
              return { frames: times.length, medianMillis: times[times.length >> 1], p95Millis: times[Math.floor(times.length * 0.95)] }
            }""");
        System.out.println("scrolling 500 computers: " + frames);
        assertThat(page.locator("section h2:not(.section)", new Page.LocatorOptions().setHasText("PC-499"))).isVisible();
        assertTrue(rows.count() <= MOST_DRAWN, rows.count() + " rows are drawn at the end");
        page.keyboard().press("/");
        page.keyboard().type("22-HS-777");
        assertThat(rows).hasText(new String[] {"PC-324"});
        assertEquals(List.of(), browser.complaints());
    }
}
