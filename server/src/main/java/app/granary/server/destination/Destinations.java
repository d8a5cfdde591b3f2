package app.granary.server.destination;

import app.granary.core.destination.Destination;
import app.granary.core.destination.PlaceKind;
import app.granary.engine.host.ImageStore;
import app.granary.server.change.Changes;
import app.granary.server.problem.IfMatch;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationStartedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.dao.OptimisticLockingFailureException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Destinations as they are now: those at hand as measured, the others as last known. */
@Service
public class Destinations {
    /** A change of less than this share of the capacity is noise and not kept. */
    private static final double WORTH_KEEPING = 0.001;
    private static final Duration READ_AT_LEAST = Duration.ofHours(12);
    private static final long LOOK_EVERY_MILLIS = 3_000;
    private static final Logger LOG = LoggerFactory.getLogger(Destinations.class);

    private final ImageStore store;
    private final DestinationRepository known;
    private final RoomReadingRepository readings;
    private final PlaceMoveRepository moves;
    private final TransactionTemplate transactions;
    private final ComputerNames names;
    private final Changes changes;
    private final Clock clock;
    /** As they were at the last look. */
    private List<Destination> seen = List.of();

    Destinations(ImageStore store, DestinationRepository known, RoomReadingRepository readings, PlaceMoveRepository moves,
        TransactionTemplate transactions, ComputerNames names, Changes changes, Clock clock) {
        this.store = store;
        this.known = known;
        this.readings = readings;
        this.moves = moves;
        this.transactions = transactions;
        this.names = names;
        this.changes = changes;
        this.clock = clock;
    }

    /** In order of name: those at hand as measured, with what people said of them, the others as last known. Changes nothing. */
    @Transactional(readOnly = true)
    public List<Destination> now() throws IOException {
        Map<String, KnownDestination> remembered = new HashMap<>();
        known.findAll().forEach(each -> remembered.put(each.id(), each));
        List<Destination> out = new ArrayList<>();
        for (Destination found : store.destinations()) {
            KnownDestination memory = remembered.remove(found.id());
            out.add(memory == null ? found
                : found.described(memory.placeKind() == PlaceKind.UNKNOWN ? found.place() : memory.placeText(), memory.notes(names)));
        }
        remembered.values().forEach(away -> out.add(away.away(names)));
        out.sort(Comparator.comparing(Destination::name));
        return out;
    }

    /**
     * Remembers what is at hand, so that a drive that is taken away stays known. One at a time, and each look's changes are kept before the
     * next begins: two would remember the same measurement twice.
     */
    @EventListener(ApplicationStartedEvent.class)
    @Order(Ordered.HIGHEST_PRECEDENCE)
    @Scheduled(initialDelay = LOOK_EVERY_MILLIS, fixedDelay = LOOK_EVERY_MILLIS)
    public synchronized void look() {
        try {
            List<Destination> found = store.destinations();
            transactions.executeWithoutResult(status -> remember(found));
            if (!found.equals(seen)) {
                seen = found;
                changes.note(Changes.Noun.DESTINATIONS);
            }
        } catch (IOException unreachable) {
            LOG.warn("destinations could not be told", unreachable);
        } catch (OptimisticLockingFailureException changedMeanwhile) {
            LOG.debug("somebody changed a destination at that moment; it is measured at the next look", changedMeanwhile);
        }
    }

    private void remember(List<Destination> measured) {
        Map<String, KnownDestination> remembered = known.findAll().stream()
            .collect(Collectors.toMap(KnownDestination::id, Function.identity()));
        for (Destination found : measured) {
            measure(remembered.containsKey(found.id()) ? remembered.get(found.id()) : met(found), found);
        }
    }

    /** Whether nothing is remembered of destinations but what was measured today. */
    public boolean hasNoPast() {
        return known.count() > 0 && readings.count() <= known.count();
    }

    /** Notes what was said of one before Granary was set up here. */
    @Transactional
    public void takeOver(String id, String rotation, Destination.Notes said) {
        KnownDestination memory = one(id);
        memory.takeOver(rotation, said);
        known.saveAndFlush(memory);
    }

    /** Notes the room of one as it was before Granary was set up here. */
    @Transactional
    public void addPast(String id, Instant at, long capacityBytes, long freeBytes) {
        readings.save(new RoomReading(id, at, capacityBytes, freeBytes));
    }

    private KnownDestination met(Destination found) {
        KnownDestination memory = known.save(KnownDestination.met(found, clock.instant()));
        readings.save(new RoomReading(found.id(), clock.instant(), found.capacityBytes(), found.freeBytes()));
        return memory;
    }

    private void measure(KnownDestination memory, Destination found) {
        Instant now = clock.instant();
        boolean changed = Math.abs(memory.freeBytes() - found.freeBytes()) > found.capacityBytes() * WORTH_KEEPING;
        if (found.attached() && (changed || memory.measuredAt().isBefore(now.minus(READ_AT_LEAST)))) {
            memory.measure(found, now);
            readings.save(new RoomReading(found.id(), now, found.capacityBytes(), found.freeBytes()));
        }
    }

    /** Where a destination lies, since when, and the group it is swapped within; an empty string for none. */
    public record Place(PlaceKind kind, String exactly, Instant since, String rotation, Destination.Notes notes) {
        /** Of one that nobody said anything of. */
        public static final Place UNKNOWN = new Place(PlaceKind.UNKNOWN, "", Instant.EPOCH, "", Destination.Notes.NONE);
    }

    /** By destination; one that was attached a moment ago may not be among them, and nobody said anything of it. */
    public Map<String, Place> places() {
        return known.findAll().stream().collect(Collectors.toMap(KnownDestination::id,
            each -> new Place(each.placeKind(), each.place(), each.placeSince(), each.rotation(), each.notes(names))));
    }

    /** What a person can change of it. */
    DestinationForm form(KnownDestination of) {
        return DestinationForm.of(of, names);
    }

    /** As it is remembered, or as it will be. */
    KnownDestination known(Destination found) {
        return known.findById(found.id()).orElseGet(() -> KnownDestination.met(found, clock.instant()));
    }

    /** One that was attached a moment ago is remembered first. */
    KnownDestination one(String id) {
        if (!known.existsById(id)) {
            look();
        }
        return known.findById(id).orElseThrow(() -> Refused.notFound("destination"));
    }

    List<RoomReading> readingsOf(String id) {
        return readings.findByDestinationIdOrderByAt(id);
    }

    List<PlaceMove> movesOf(String id) {
        return moves.findByDestinationIdOrderByAtDesc(id);
    }

    /** Says where it lies now, and nothing else of it. */
    @Transactional
    public void place(String id, PlaceKind kind, String exactly, String who) {
        KnownDestination memory = one(id);
        memory.describe(kind, exactly, memory.rotation(), memory.ejectNote(), memory.notes(names), clock.instant());
        known.saveAndFlush(memory);
        moves.save(new PlaceMove(id, clock.instant(), who, kind, exactly));
    }

    /** @return whether it was moved */
    @Transactional
    public boolean describe(String id, long version, DestinationForm form, String who) {
        KnownDestination memory = one(id);
        if (memory.version() != version) {
            throw IfMatch.changedMeanwhile(memory.name());
        }
        PlaceKind kind = form.kind();
        boolean moved = memory.describe(kind, form.place().strip(), form.rotation().strip(), form.ejectNote().strip(), form.notes(names),
            clock.instant());
        known.saveAndFlush(memory);
        if (moved) {
            moves.save(new PlaceMove(id, clock.instant(), who, kind, form.place().strip()));
        }
        return moved;
    }
}
