package app.granary.engine.files;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A folder and those below it that are to be gone through, each once, whatever on a damaged disk leads back to one.
 *
 * @param <F> what a folder is known by to whoever goes through it
 */
public final class FolderWalk<F> {
    private final Set<Long> seen = new HashSet<>();
    private final Deque<Step<F>> open = new ArrayDeque<>();

    /** @param names from the first folder down to this one; empty for the first */
    public record Step<F>(F folder, List<String> names) {
        public List<String> below(String name) {
            List<String> out = new ArrayList<>(names);
            out.add(name);
            return out;
        }
    }

    /** @param id by which the file system knows it */
    public FolderWalk(F top, long id) {
        enter(top, id, List.of());
    }

    /** @return false when it was entered before */
    public boolean enter(F folder, long id, List<String> names) {
        return seen.add(id) && open.add(new Step<>(folder, names));
    }

    /** Whether a folder was entered before. */
    boolean leadsBack(long id) {
        return seen.contains(id);
    }

    /** Empty when all were gone through. */
    public Optional<Step<F>> next() {
        return Optional.ofNullable(open.poll());
    }

    public boolean ended() {
        return open.isEmpty();
    }
}
