package app.granary.server.office;

import app.granary.core.inventory.BootKeys;
import app.granary.engine.site.MachineSite;
import app.granary.engine.site.Site;
import app.granary.standins.SimulatedOffice;
import java.io.IOException;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Chooses between this machine's devices and the simulated office: the only place that knows there are two. */
@Configuration
class SiteConfiguration {
    @Bean
    Clock clock() {
        return Clock.systemDefaultZone();
    }

    @Bean
    Site site(GranarySettings settings, Clock clock) throws IOException {
        if (settings.demo()) {
            return new SimulatedOffice(settings.home().resolve("office"), clock, settings.pace());
        }
        return new MachineSite(hostName(), settings.home().resolve("disks"), settings.home().resolve("images"), settings.home().resolve("scratch"), clock);
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
