package app.granary.server.destination;

import app.granary.core.destination.Destination;
import app.granary.core.destination.PlaceKind;
import app.granary.core.machine.Machine;
import app.granary.server.column.TextList;
import jakarta.persistence.Convert;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Version;
import java.time.Instant;
import java.util.List;
import java.util.OptionalInt;
import java.util.TreeMap;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import org.hibernate.annotations.DynamicUpdate;
import org.hibernate.annotations.OptimisticLock;

/**
 * A destination with what was last measured of it and what a person says of it. Its version is of what people say: a measurement is
 * nobody's change, and writes its own columns alone.
 */
@Entity(name = "Destination")
@DynamicUpdate
class KnownDestination {
    @Id
    private String id;
    @OptimisticLock(excluded = true)
    private String name;
    @Enumerated(EnumType.STRING)
    private PlaceKind placeKind;
    private String place;
    private Instant placeSince;
    private String rotation;
    private String ejectNote;
    private String healthNote;
    private String sharedLink;
    private boolean leavesBuilding;
    @Convert(converter = TextList.class)
    private List<String> onlyFor;
    @OptimisticLock(excluded = true)
    private long capacityBytes;
    @OptimisticLock(excluded = true)
    private long freeBytes;
    @OptimisticLock(excluded = true)
    private Long fileLimitBytes;
    @OptimisticLock(excluded = true)
    private long writeRateBytes;
    @OptimisticLock(excluded = true)
    private Instant measuredAt;
    @Version
    private long version;

    protected KnownDestination() {
    }

    static KnownDestination met(Destination destination, Instant at) {
        KnownDestination known = new KnownDestination();
        known.id = destination.id();
        known.placeKind = PlaceKind.UNKNOWN;
        known.place = destination.place();
        known.placeSince = at;
        known.rotation = "";
        known.ejectNote = "";
        known.healthNote = "";
        known.sharedLink = "";
        known.onlyFor = List.of();
        known.measure(destination, at);
        return known;
    }

    void measure(Destination destination, Instant at) {
        name = destination.name();
        capacityBytes = destination.capacityBytes();
        freeBytes = destination.freeBytes();
        fileLimitBytes = destination.fileSizeLimitBytes().isPresent() ? destination.fileSizeLimitBytes().getAsLong() : null;
        writeRateBytes = destination.writeRateBytes();
        measuredAt = at;
    }

    /** @return whether it lies elsewhere now */
    boolean describe(PlaceKind kind, String where, String newRotation, String eject, Destination.Notes said, Instant at) {
        boolean moved = kind != placeKind || !where.equals(place);
        if (moved) {
            placeSince = at;
        }
        placeKind = kind;
        place = where;
        rotation = newRotation;
        ejectNote = eject;
        note(said);
        return moved;
    }

    private void note(Destination.Notes said) {
        healthNote = said.health();
        sharedLink = said.sharedLink();
        leavesBuilding = said.leavesBuilding();
        onlyFor = said.onlyFor().keySet().stream().sorted().toList();
    }

    /** What was known of it before Granary was set up here. */
    void takeOver(String itsRotation, Destination.Notes said) {
        rotation = itsRotation;
        note(said);
    }

    Destination.Notes notes(ComputerNames names) {
        Map<String, String> only = new TreeMap<>();
        onlyFor.forEach(id -> only.put(id, names.name(id).orElse(id)));
        return new Destination.Notes(leavesBuilding, only, healthNote, sharedLink);
    }

    /** Where it lies, in words: a person's, where there are any, or the site's. */
    String placeText() {
        return placeKind == PlaceKind.UNKNOWN ? place : placeKind.words(place);
    }

    /** As rules see one that is not attached: its last known figures. */
    Destination away(ComputerNames names) {
        return new Destination(id, name, placeText(), false, false, capacityBytes, freeBytes, 0, 0,
            fileLimitBytes == null ? OptionalLong.empty() : OptionalLong.of(fileLimitBytes),
            Math.max(1, writeRateBytes), Set.of(), notes(names), Machine.OFFICE, OptionalInt.empty());
    }

    String id() {
        return id;
    }

    String name() {
        return name;
    }

    PlaceKind placeKind() {
        return placeKind;
    }

    String place() {
        return place;
    }

    Instant placeSince() {
        return placeSince;
    }

    String rotation() {
        return rotation;
    }

    String ejectNote() {
        return ejectNote;
    }

    long freeBytes() {
        return freeBytes;
    }

    Instant measuredAt() {
        return measuredAt;
    }

    long version() {
        return version;
    }
}
