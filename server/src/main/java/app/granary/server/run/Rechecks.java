package app.granary.server.run;

import app.granary.core.destination.Destination;
import app.granary.core.proof.ProofLevel;
import app.granary.core.proof.Recheck;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.check.Checks;
import app.granary.server.destination.Destinations;
import app.granary.server.image.Images;
import app.granary.server.problem.Refused;
import app.granary.server.queue.RunQueue;
import java.io.IOException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Asks for images to be checked again whose proof has gone stale, while their drive is attached: a few at a time, giving way to all other
 * work.
 */
@Component
class Rechecks {
    static final String BY = "Granary";
    private static final Logger LOG = LoggerFactory.getLogger(Rechecks.class);
    /** Asked for at a time; the next ones come when these are done. */
    private static final int AT_ONCE = 2;

    private final Images images;
    private final Destinations destinations;
    private final RunQueue queue;
    private final Checks checks;
    private final Clock clock;

    Rechecks(Images images, Destinations destinations, RunQueue queue, Checks checks, Clock clock) {
        this.images = images;
        this.destinations = destinations;
        this.queue = queue;
        this.checks = checks;
        this.clock = clock;
    }

    @Scheduled(initialDelay = 60_000, fixedDelay = 600_000)
    void ask() {
        try {
            Set<String> attached = destinations.now().stream().filter(Destination::attached).map(Destination::id)
                .collect(Collectors.toSet());
            long already = queue.open().stream().filter(run -> run.begunBy().equals(BY)).count();
            for (Recheck each : due(attached).stream().limit(Math.max(0, AT_ONCE - already)).toList()) {
                // digests need no passphrase, and nobody is there to give one
                boolean secret = images.shelved(UUID.fromString(each.id())).encrypted();
                checks.begin(UUID.fromString(each.id()), secret ? ProofLevel.SOUND : ProofLevel.READABLE, Passphrase.NONE, true, BY);
            }
        } catch (IOException unreachable) {
            LOG.warn("what is attached could not be told", unreachable);
        } catch (Refused askedForAlready) {
            LOG.debug("a check was asked for by a person meanwhile", askedForAlready);
        }
    }

    /** Stale ones on some drives, in the order they are checked. */
    List<Recheck> due(Set<String> attached) throws IOException {
        List<Images.Standings> all = images.standings();
        Set<String> worrying = destinations.now().stream().filter(d -> !d.notes().health().isEmpty()).map(Destination::id)
            .collect(Collectors.toCollection(HashSet::new));
        all.stream().filter(image -> image.standing().damaged()).forEach(image -> worrying.add(image.destinationId()));
        Map<UUID, List<Images.Standings>> copies = all.stream().collect(Collectors.groupingBy(Images.Standings::imageId));
        Set<String> seen = new HashSet<>();
        List<Recheck> here = new ArrayList<>();
        for (Images.Standings image : all) {
            boolean newest = seen.add(image.diskId());
            if (attached.contains(image.destinationId()) && !image.paper()) {
                boolean only = copies.get(image.imageId()).stream()
                    .noneMatch(other -> !other.id().equals(image.id()) && !other.standing().damaged());
                here.add(new Recheck(image.id().toString(), image.standing(), image.recheckDays(), image.madeAt(), only, newest,
                    worrying.contains(image.destinationId())));
            }
        }
        return Recheck.queue(here, clock.instant());
    }
}
