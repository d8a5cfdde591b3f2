package app.granary.core.shelf;

import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * An image with its copies.
 *
 * @param copies the one proven furthest first, never empty
 */
public record ImageOnShelf(List<CopyOnShelf> copies) {
    private static final Comparator<CopyOnShelf> BEST = Comparator.comparing(CopyOnShelf::released)
        .thenComparing(copy -> copy.standing().damaged())
        .thenComparing(copy -> -copy.standing().level().map(level -> level.ordinal() + 1).orElse(0)).thenComparing(CopyOnShelf::id);

    public ImageOnShelf {
        copies = copies.stream().sorted(BEST).toList();
    }

    public String id() {
        return copies.get(0).imageId();
    }

    public String diskId() {
        return copies.get(0).diskId();
    }

    public Instant madeAt() {
        return copies.get(0).madeAt();
    }

    /** Whether none of its copies stays. */
    public boolean released() {
        return copies.stream().allMatch(CopyOnShelf::released);
    }

    /** Copies that are there. */
    public List<CopyOnShelf> kept() {
        return copies.stream().filter(copy -> !copy.released()).toList();
    }

    public boolean damaged() {
        return copies.stream().anyMatch(copy -> !copy.released() && copy.standing().damaged());
    }

    /** Whether one more loss would lose it: one copy alone could be restored from, or none. */
    public boolean oneCopyOnly() {
        return !released() && copies.stream().filter(CopyOnShelf::counts).count() <= 1;
    }

    /** Whether no copy of it was found sound within the time its plan asks for. */
    public boolean notProvenLately(Instant now) {
        return !released() && copies.stream().anyMatch(CopyOnShelf::seen) && copies.stream().noneMatch(copy -> copy.provenLately(now));
    }

    /** A copy that a damaged one can be repaired from; empty when none is damaged, or none is sound. */
    public Optional<CopyOnShelf> twin() {
        return damaged() ? copies.stream().filter(copy -> copy.counts() && copy.standing().sound()).findFirst() : Optional.empty();
    }
}
