package app.granary.server.office;

import app.granary.server.home.GranarySettings;
import app.granary.core.inventory.BootKeys;
import app.granary.engine.site.MachineSite;
import app.granary.engine.site.Site;
import app.granary.standins.MovedClock;
import app.granary.standins.SimulatedOffice;
import java.io.IOException;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Optional;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Chooses between this machine's devices and the simulated office: the only place that knows there are two. */
@Configuration
public class SiteConfiguration {
    /** Captures the simulated office's disks once, when it is built, so that its start need not. */
    public static void preparePast(Path home, Path past) throws IOException {
        SimulatedOffice.preparePast(home, past, Clock.systemUTC());
    }

    @Bean
    Clock clock(GranarySettings settings) {
        return settings.demo() && (settings.history() || settings.now() != null) ? new MovedClock(Clock.systemDefaultZone(), Optional.ofNullable(settings.now())) : Clock.systemDefaultZone();
    }

    /** As the system calls them; under the office's names they are the site everyone else works with. */
    @Bean
    Site devices(GranarySettings settings, Clock clock) throws IOException {
        if (settings.demo()) {
            Path own = settings.home().resolve("office");
            return new SimulatedOffice(own, settings.past() == null ? own.resolve("once") : settings.past(), clock, settings.pace());
        }
        return new MachineSite(hostName(), settings.home().resolve("disks"), settings.home().resolve("images"),
            settings.home().resolve("scratch"), clock, settings.deviceTypes());
    }

    /** A person's own table of boot-menu keys, where there is one, instead of the shipped one. */
    @Bean
    BootKeys bootKeys(GranarySettings settings) throws IOException {
        Path own = settings.home().resolve("boot-keys.csv");
        return Files.exists(own) ? BootKeys.parse(Files.readString(own)) : BootKeys.shipped();
    }

    private static String hostName() {
        try {
            return InetAddress.getLocalHost().getHostName();
        } catch (UnknownHostException nameless) {
            return "this machine";
        }
    }
}
