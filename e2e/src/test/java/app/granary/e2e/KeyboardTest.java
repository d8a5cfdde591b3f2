package app.granary.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.fail;

import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;

/** A bad day and an evening by the keyboard alone: nothing here touches the page but keys, and what they reach is what has the focus. */
class KeyboardTest extends OfficeWithAPast {
    private static final LocatorAssertions.IsVisibleOptions PATIENTLY = new LocatorAssertions.IsVisibleOptions().setTimeout(90_000);
    private static final int MOST_STOPS = 250;
    /** What is read out of the element with the focus: its label, or its own words. */
    private static final String FOCUSED = """
        () => {
          const e = document.activeElement
          if (!e || e === document.body) return ''
          const label = e.getAttribute('aria-label') || [...(e.labels ?? [])].map(l => l.textContent).join(' ') || e.textContent || ''
          return label.replace(/\\s+/g, ' ').trim().slice(0, 300)
        }""";

    private String focused() {
        return (String) page.evaluate(FOCUSED);
    }

    private void press(String key) {
        page.keyboard().press(key);
    }

    private void tabTo(String words) {
        for (int i = 0; i < MOST_STOPS; i++) {
            press("Tab");
            if (focused().contains(words)) {
                return;
            }
        }
        fail("Tab does not reach \"" + words + "\"; the focus is at \"" + focused() + "\"");
    }

    private void go(String words) {
        tabTo(words);
        press("Enter");
    }

    @Test
    @Order(1)
    void tripodIsDeadAndBackByTheKeyboardAlone() {
        press("Control+k");
        page.keyboard().type("TRIPOD");
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("TRIPOD");
        press("Enter");
        assertThat(page.locator("h1")).containsText("TRIPOD");
        go("If it dies today");
        assertThat(page.getByText("Bring it back now")).isVisible();
        go("Bring it back now");
        assertThat(page.getByLabel("Spare 2")).isVisible();
        tabTo("Spare");
        for (int i = 0; i < 5 && !focused().contains("Spare 2"); i++) {
            press("ArrowDown");
        }
        press("Space");
        assertThat(page.getByLabel("Spare 2")).isChecked();
        assertThat(button("Overwrite this disk")).isVisible(PATIENTLY);
        tabTo("Type the last four characters of its serial number");
        page.keyboard().type("0560");
        press("Enter");
        assertThat(button("Sign: TRIPOD is back")).isVisible(PATIENTLY);
        for (String check : page.locator("section.one .checks label").allTextContents()) {
            tabTo(check.strip());
            press("Space");
        }
        go("Sign: TRIPOD is back");
        assertThat(button("Sign: TRIPOD is back")).hasCount(0);
        press("Alt+0");
        assertThat(page.getByText("TRIPOD is back from").first()).isVisible();
    }

    @Test
    @Order(2)
    void theEveningIsStartedByTheKeyboardAlone() {
        press("Alt+4");
        assertThat(page.locator("button.line").first()).isVisible(PATIENTLY);
        tabTo("Boot ");
        press("Space");
        assertThat(page.locator("main td input:checked").first()).isVisible();
        go("Start the night");
        assertThat(page).hasURL(server.url() + "/runs");
        press("Alt+0");
        assertThat(page.locator("h1")).hasText("Journal");
        press("?");
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("walk the days");
        press("Escape");
        assertThat(page.getByRole(AriaRole.DIALOG)).hasCount(0);
        tabTo("Wed 25 Nov:");
        press("ArrowLeft");
        assertThat(page.locator("[aria-label^='Tue 24 Nov:']")).isFocused();
        press("Enter");
        assertThat(page).hasURL(Pattern.compile("from=2026-11-24&to=2026-11-24"));
        press("/");
        page.keyboard().type("PEG-3");
        assertThat(page).hasURL(Pattern.compile("text=PEG-3"));
        assertThat(page.locator("main")).containsText("PEG-3 became full");
        assertEquals(List.of(), browser.complaints());
    }
}
