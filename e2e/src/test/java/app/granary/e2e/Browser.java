package app.granary.e2e;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.options.ColorScheme;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;

/** Debian's Chromium, driven by Playwright. Everything the page complains about is kept: a clean console is part of every test. */
final class Browser implements AutoCloseable {
    private static final int REQUESTS_KEPT = 200;

    private final Playwright playwright = Playwright
        .create(new Playwright.CreateOptions().setEnv(java.util.Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
    private final com.microsoft.playwright.Browser chromium = playwright.chromium()
        .launch(new BrowserType.LaunchOptions().setExecutablePath(Path.of("/usr/bin/chromium"))
            .setArgs(List.of("--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update",
                "--disable-sync", "--disable-quic")));
    private final List<String> complaints = new ArrayList<>();
    private final Deque<String> requests = new ArrayDeque<>();

    Page page(ColorScheme scheme) {
        BrowserContext context = chromium
            .newContext(new com.microsoft.playwright.Browser.NewContextOptions().setViewportSize(1280, 800).setColorScheme(scheme)
                .setLocale("en-GB").setTimezoneId("Europe/London"));
        Page page = context.newPage();
        page.onPageError(complaints::add);
        page.onConsoleMessage(message -> {
            if (message.type().equals("error") && !message.text().contains("Failed to load resource")) {
                complaints.add(message.text());
            }
        });
        page.onResponse(response -> asked(response.status() + " " + response.request().method() + " " + response.url()));
        page.onRequestFailed(request -> asked("failed " + request.method() + " " + request.url() + ": " + request.failure()));
        return page;
    }

    private void asked(String line) {
        if (requests.size() == REQUESTS_KEPT) {
            requests.removeFirst();
        }
        requests.add(line);
    }

    /** Errors the pages met so far. */
    List<String> complaints() {
        return complaints;
    }

    /** The last requests of all pages and how they were answered, oldest first. */
    List<String> requests() {
        return List.copyOf(requests);
    }

    /** Every page that is open. */
    List<Page> pages() {
        return chromium.contexts().stream().flatMap(context -> context.pages().stream()).toList();
    }

    @Override
    public void close() {
        chromium.close();
        playwright.close();
    }
}
