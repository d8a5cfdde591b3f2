package app.granary.e2e;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.PlaywrightException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.LifecycleMethodExecutionExceptionHandler;
import org.junit.jupiter.api.extension.TestExecutionExceptionHandler;

/** Keeps what a failed browser test looked at: each page's picture and text, the server's log, the last requests; and says where. */
final class Evidence implements TestExecutionExceptionHandler, LifecycleMethodExecutionExceptionHandler {
    @Override
    public void handleTestExecutionException(ExtensionContext context, Throwable failure) throws Throwable {
        keep(context, failure);
        throw failure;
    }

    @Override
    public void handleBeforeAllMethodExecutionException(ExtensionContext context, Throwable failure) throws Throwable {
        keep(context, failure);
        throw failure;
    }

    private static void keep(ExtensionContext context, Throwable failure) {
        BrowserTest test = (BrowserTest) context.getRequiredTestInstance();
        String name = context.getRequiredTestClass().getSimpleName() + context.getTestMethod().map(method -> "." + method.getName())
            .orElse("");
        try {
            Path folder = Files.createDirectories(Build.folder().resolve("failures").resolve(name));
            Files.writeString(folder.resolve("failure.txt"), failure + "\n");
            if (test.server != null) {
                Files.copy(test.server.home().resolve("server.log"), folder.resolve("server.log"), StandardCopyOption.REPLACE_EXISTING);
            }
            if (test.browser != null) {
                Files.write(folder.resolve("requests.txt"), test.browser.requests());
                Files.write(folder.resolve("complaints.txt"), test.browser.complaints());
                int number = 0;
                for (Page page : test.browser.pages()) {
                    number++;
                    Files.writeString(folder.resolve("page-" + number + ".txt"), page.url() + "\n\n" + page.locator("body").innerText());
                    page.screenshot(new Page.ScreenshotOptions().setPath(folder.resolve("page-" + number + ".png")));
                }
            }
            System.out.println(name + " failed; picture, page text, server log and last requests are in " + folder);
        } catch (IOException | PlaywrightException unseen) {
            failure.addSuppressed(unseen);
        }
    }
}
