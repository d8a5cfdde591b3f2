package app.granary.server.office;

import app.granary.server.account.Accounts;
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
            String host = event.getApplicationContext().getEnvironment().getProperty("server.address", InetAddress.getLoopbackAddress().getHostAddress());
            System.out.println("Granary is at http://" + host + ":" + web.getWebServer().getPort());
            if (settings.demo()) {
                System.out.println("Sign in as " + Accounts.DEMO_NAME + " with the password " + Accounts.DEMO_PASSWORD);
            } else if (accounts.none()) {
                System.out.println("The first visit creates the technician's account.");
            }
            System.out.println("Stop it with Ctrl+C.");
        }
    }
}
