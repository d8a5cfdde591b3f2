package app.granary.server.retention;

import app.granary.server.problem.Refused;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Sees to releases now and then: drives come and go, the trash grows old. */
@Component
class ReleaseTick {
    private static final Logger LOG = LoggerFactory.getLogger(ReleaseTick.class);

    private final Releases releases;

    ReleaseTick(Releases releases) {
        this.releases = releases;
    }

    @Scheduled(initialDelay = 30_000, fixedDelay = 60_000)
    void carryOut() {
        releases.carryOut();
    }

    @Scheduled(initialDelay = 120_000, fixedDelay = 3_600_000)
    void automatic() {
        try {
            releases.automatic();
        } catch (Refused meanwhile) {
            LOG.debug("something changed while it was decided; the next hour decides anew", meanwhile);
        }
    }
}
