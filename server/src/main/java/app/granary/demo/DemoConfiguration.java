package app.granary.demo;

import app.granary.server.home.GranarySettings;
import app.granary.server.home.Pace;
import app.granary.standins.MovedClock;
import app.granary.standins.SimulatedOffice;
import app.granary.standins.Switchboard;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Optional;
import org.springframework.boot.autoconfigure.AutoConfiguration;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Import;

/** The made-up office in place of this machine. */
@AutoConfiguration
@ConditionalOnProperty(name = "granary.demo", havingValue = "true")
@Import({DemoPast.class, DemoClock.class, DemoHistory.class, PastCopies.class, SwitchController.class, DemoLaptops.class})
public class DemoConfiguration {
    @Bean
    Clock clock(GranarySettings settings) {
        Clock real = Clock.systemDefaultZone();
        return settings.now() != null ? new MovedClock(real, Optional.of(settings.now()))
            : settings.history() ? new MovedClock(real, Optional.of(DemoClock.shows(real.instant(), real.getZone(),
                DemoClock.last(settings.home()))))
            : real;
    }

    @Bean
    SimulatedOffice ownMachine(GranarySettings settings, Clock clock) throws IOException {
        Path own = settings.home().resolve("office");
        return new SimulatedOffice(own, settings.past() == null ? own.resolve("once") : settings.past(), clock, settings.pace());
    }

    @Bean
    Pace pace(SimulatedOffice ownMachine) {
        return new Pace(ownMachine.pace());
    }

    @Bean
    Switchboard switchboard(SimulatedOffice ownMachine) {
        return ownMachine.switchboard();
    }
}
