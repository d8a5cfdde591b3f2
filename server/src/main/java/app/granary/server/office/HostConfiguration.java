package app.granary.server.office;

import app.granary.server.home.GranarySettings;
import app.granary.server.home.Pace;
import app.granary.core.inventory.BootKeys;
import app.granary.engine.host.MachineHost;
import app.granary.engine.host.Host;
import java.io.IOException;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** This machine's devices and clock. A made-up office brings its own. */
@Configuration
public class HostConfiguration {
    /** Where devices are real. */
    @Configuration
    @ConditionalOnProperty(name = "granary.demo", havingValue = "false", matchIfMissing = true)
    static class ThisMachine {
        @Bean
        Clock clock() {
            return Clock.systemDefaultZone();
        }

        @Bean
        Host ownMachine(GranarySettings settings, Clock clock) throws IOException {
            return new MachineHost(hostName(), settings.home().resolve("disks"), settings.home().resolve("images"),
                settings.home().resolve("scratch"), clock, settings.deviceTypes(),
                settings.destinations());
        }

        @Bean
        Pace pace() {
            return Pace.REAL;
        }
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
