package app.granary.core.disk;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/**
 * Which of the disks on record the attached ones are. A disk is known by what it says of itself or because a person tied this attachment to
 * it; never by a path. Where that does not settle it, it is ambiguous, and nobody guesses.
 */
public final class DiskRegister {
    private final List<Entry> known;
    private final Map<String, String> tied;
    private final List<SeenDisk> attached;
    private final Map<String, Resolution> resolved;

    /** A disk on record. */
    public record Entry(String id, DiskIdentity identity) {
    }

    /** What an attached disk is. */
    public sealed interface Resolution {
        /** The disk on record with that id. */
        record Known(String diskId) implements Resolution {
        }

        /** None on record can be it. */
        record New() implements Resolution {
        }

        /**
         * It may be one on record or another.
         *
         * @param why        what keeps it from being told
         * @param twins      names of attached disks that answer alike; empty unless {@code why} is {@link Doubt#TWINS}
         * @param candidates ids of disks on record it may be
         */
        record Ambiguous(Doubt why, List<String> twins, List<String> candidates) implements Resolution {
            public Ambiguous {
                twins = List.copyOf(twins);
                candidates = List.copyOf(candidates);
            }
        }
    }

    /** Why a disk cannot be told. */
    public enum Doubt {
        /** Another attached disk answers alike. */
        TWINS,
        /** It gives no serial, and a disk of that size is on record. */
        NO_SERIAL,
        /** It gives a serial, and a disk of that model and size whose serial was hidden is on record. */
        HIDDEN_BEFORE,
        /** Several on record answer alike. */
        SEVERAL
    }

    /**
     * @param known    on record, removed ones too, since a disk may come back
     * @param tied     what persons said: id of an attachment, and the disk on record it is
     * @param attached all that answer now
     */
    public DiskRegister(List<Entry> known, Map<String, String> tied, List<SeenDisk> attached) {
        this.known = List.copyOf(known);
        this.tied = Map.copyOf(tied);
        this.attached = List.copyOf(attached);
        this.resolved = all();
    }

    /** @throws IllegalArgumentException for a disk that is not among those attached */
    public Resolution resolve(SeenDisk seen) {
        Resolution found = resolved.get(seen.attachment());
        if (found == null) {
            throw new IllegalArgumentException(seen.name() + " is not attached");
        }
        return found;
    }

    private Map<String, Resolution> all() {
        Map<String, String> certain = new HashMap<>();
        attached.forEach(seen -> certain(seen).ifPresent(id -> certain.put(seen.attachment(), id)));
        // two that both seem to be the same disk on record: one of them is not
        Map<String, Long> claims = certain.values().stream().collect(Collectors.groupingBy(id -> id, Collectors.counting()));
        certain.values().removeIf(id -> claims.get(id) > 1);
        Set<String> taken = Set.copyOf(certain.values());
        Map<String, Resolution> out = new HashMap<>();
        for (SeenDisk seen : attached) {
            String id = certain.get(seen.attachment());
            out.put(seen.attachment(), id == null ? uncertain(seen, taken) : new Resolution.Known(id));
        }
        return out;
    }

    /** By a person's word, by the same attachment, or by what it says when nothing else here or on record says the same. */
    private Optional<String> certain(SeenDisk seen) {
        Optional<String> word = Optional.ofNullable(tied.get(seen.attachment())).filter(id -> entry(id).isPresent());
        if (word.isPresent()) {
            return word;
        }
        Optional<String> same = entry(seen.id()).filter(each -> each.identity().same(seen.identity())).map(Entry::id);
        if (same.isPresent() || !seen.twins(attached).isEmpty()) {
            return same;
        }
        List<Entry> by = known.stream().filter(each -> seen.identity().known(each.identity())).toList();
        List<Entry> ofModel = by.stream().filter(each -> each.identity().model().equals(seen.identity().model())).toList();
        return by.size() == 1 ? Optional.of(by.get(0).id()) : ofModel.size() == 1 ? Optional.of(ofModel.get(0).id()) : Optional.empty();
    }

    private Resolution uncertain(SeenDisk seen, Set<String> taken) {
        DiskIdentity identity = seen.identity();
        List<String> twins = seen.twins(attached).stream().map(SeenDisk::name).toList();
        List<Entry> free = known.stream().filter(each -> !taken.contains(each.id())).toList();
        if (!twins.isEmpty()) {
            return new Resolution.Ambiguous(Doubt.TWINS, twins, ids(free, on -> identity.known(on) || identity.alike(on)));
        }
        if (identity.serial().isBlank()) {
            // a bridge that hides the serial often gives its own name as the model, so only the size is left to go by
            List<String> ofSize = ids(free, on -> on.sizeBytes() == identity.sizeBytes());
            return ofSize.isEmpty() ? new Resolution.New() : new Resolution.Ambiguous(Doubt.NO_SERIAL, List.of(), ofSize);
        }
        List<String> strict = ids(free, identity::known);
        if (!strict.isEmpty()) {
            return new Resolution.Ambiguous(Doubt.SEVERAL, List.of(), strict);
        }
        List<String> hidden = ids(free,
            on -> on.serial().isBlank() && on.model().equals(identity.model()) && on.sizeBytes() == identity.sizeBytes());
        return hidden.isEmpty() ? new Resolution.New() : new Resolution.Ambiguous(Doubt.HIDDEN_BEFORE, List.of(), hidden);
    }

    private Optional<Entry> entry(String id) {
        return known.stream().filter(each -> each.id().equals(id)).findFirst();
    }

    private static List<String> ids(List<Entry> entries, Predicate<DiskIdentity> which) {
        return entries.stream().filter(each -> which.test(each.identity())).map(Entry::id).toList();
    }
}
