package app.granary.server.night;

import app.granary.server.agent.ComputersByAgent;
import app.granary.server.computer.DisksRead;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Looks, when disks were read and every minute, whether a computer that was started from rescue media is due tonight. */
@Component
class NightOfThoseHere {
    private static final Logger LOG = LoggerFactory.getLogger(NightOfThoseHere.class);
    private static final long EVERY_MILLIS = 60_000;

    private final NightStarts starts;
    private final ComputersByAgent byAgent;

    private final Clock clock;
    private final Instant notBefore;

    /** @param afterMillis how long after its start Granary begins to look, in ms; 0 for at once */
    NightOfThoseHere(NightStarts starts, ComputersByAgent byAgent, Clock clock,
        @Value("${granary.those-here-after:0}") long afterMillis) {
        this.byAgent = byAgent;
        this.starts = starts;
        this.clock = clock;
        this.notBefore = clock.instant().plusMillis(afterMillis);
    }

    @EventListener
    void read(DisksRead disks) {
        look();
    }

    @Scheduled(initialDelay = EVERY_MILLIS, fixedDelay = EVERY_MILLIS)
    void look() {
        try {
            if (!clock.instant().isBefore(notBefore) && byAgent.any()) {
                starts.startThoseHere();
            }
        } catch (IOException | RuntimeException notNow) {
            LOG.warn("tonight's computers could not be looked at", notNow);
        }
    }
}
