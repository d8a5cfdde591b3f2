package app.granary.server.account;

import app.granary.server.home.GranarySettings;
import java.net.InetAddress;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.boot.web.servlet.context.ServletWebServerApplicationContext;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Says on standard output where Granary is, once it can be used. */
@Component
class Announcement {
    private final GranarySettings settings;
    private final Accounts accounts;

    Announcement(GranarySettings settings, Accounts accounts) {
        this.settings = settings;
        this.accounts = accounts;
    }

    @EventListener
    void ready(ApplicationReadyEvent event) {
        if (event.getApplicationContext() instanceof ServletWebServerApplicationContext web && web.getWebServer() != null) {
            String host = event.getApplicationContext().getEnvironment().getProperty("server.address",
                InetAddress.getLoopbackAddress().getHostAddress());
            System.out.println("Granary is at http://" + host + ":" + web.getWebServer().getPort()
                + accounts.firstWord().map(word -> "/?word=" + word).orElse(""));
            if (settings.demo()) {
                System.out.println("Sign in as " + Accounts.DEMO_NAME + " with the password " + Accounts.DEMO_PASSWORD);
            } else if (accounts.none()) {
                System.out.println("Open that address to create the technician's account; its word is good until Granary ends.");
            }
            System.out.println("Stop it with Ctrl+C.");
        }
    }
}
