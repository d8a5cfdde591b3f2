package app.granary.server.destination;

import app.granary.core.destination.Destination;
import app.granary.core.destination.PlaceKind;
import app.granary.engine.site.PastNote;
import app.granary.engine.site.PastRoom;
import app.granary.engine.site.Site;
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
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Destinations as they are now: those at hand as measured, the others as last known. */
@Service
public class Destinations {
    /** A change of less than this share of the capacity is noise and not kept. */
    private static final double WORTH_KEEPING = 0.001;
    private static final Duration READ_AT_LEAST = Duration.ofHours(12);

    private final Site site;
    private final DestinationRepository known;
    private final RoomReadingRepository readings;
    private final PlaceMoveRepository moves;
    private final TransactionTemplate transactions;
    private final Clock clock;

    Destinations(Site site, DestinationRepository known, RoomReadingRepository readings, PlaceMoveRepository moves, TransactionTemplate transactions, Clock clock) {
        this.site = site;
        this.known = known;
        this.readings = readings;
        this.moves = moves;
        this.transactions = transactions;
        this.clock = clock;
    }

    /**
     * In order of name. What is measured is remembered, so that a drive that is taken away stays known. One at a time, and each call's changes are
     * kept before the next begins: several pages ask at once, and two would remember the same measurement twice.
     */
    public synchronized List<Destination> now() throws IOException {
        List<Destination> found = site.destinations();
        boolean first = known.count() == 0;
        List<PastRoom> past = first ? site.pastRoom() : List.of();
        List<PastNote> notes = first ? site.pastNotes() : List.of();
        return transactions.execute(status -> remember(found, past, notes));
    }

    private List<Destination> remember(List<Destination> measured, List<PastRoom> past, List<PastNote> notes) {
        Map<String, KnownDestination> remembered = new HashMap<>();
        known.findAll().forEach(each -> remembered.put(each.id(), each));
        List<Destination> out = new ArrayList<>();
        for (Destination found : measured) {
            KnownDestination memory = remembered.remove(found.id());
            if (memory == null) {
                memory = met(found, notes);
            }
            measure(memory, found);
            out.add(found.described(memory.placeKind() == PlaceKind.UNKNOWN ? found.place() : memory.placeText(), memory.notes()));
        }
        past.forEach(each -> readings.save(new RoomReading(each.destinationId(), each.at(), each.capacityBytes(), each.freeBytes())));
        remembered.values().forEach(away -> out.add(away.away()));
        out.sort(Comparator.comparing(Destination::name));
        return out;
    }

    private KnownDestination met(Destination found, List<PastNote> notes) {
        KnownDestination meeting = KnownDestination.met(found, clock.instant());
        notes.stream().filter(note -> note.destinationId().equals(found.id())).forEach(meeting::takePast);
        KnownDestination memory = known.save(meeting);
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
    }

    /** By destination. */
    public Map<String, Place> places() {
        return known.findAll().stream().collect(Collectors.toMap(KnownDestination::id, each -> new Place(each.placeKind(), each.place(), each.placeSince(), each.rotation(), each.notes())));
    }

    KnownDestination one(String id) {
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
        memory.describe(kind, exactly, memory.rotation(), memory.ejectNote(), memory.notes(), clock.instant());
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
        boolean moved = memory.describe(kind, form.place().strip(), form.rotation().strip(), form.ejectNote().strip(), form.notes(), clock.instant());
        known.saveAndFlush(memory);
        if (moved) {
            moves.save(new PlaceMove(id, clock.instant(), who, kind, form.place().strip()));
        }
        return moved;
    }
}
