package app.granary.engine.files;

import app.granary.core.filesystem.FileEntry;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** A folder and those below it that are to be gone through, each once, whatever on a damaged disk leads back to one. */
final class FolderWalk {
    private final Set<Long> seen = new HashSet<>();
    private final Deque<Step> open = new ArrayDeque<>();

    /** @param names from the first folder down to this one; empty for the first */
    record Step(FileEntry folder, List<String> names) {
        List<String> below(String name) {
            List<String> out = new ArrayList<>(names);
            out.add(name);
            return out;
        }
    }

    FolderWalk(FileEntry top) {
        enter(top, List.of());
    }

    /** @return false when it was entered before */
    boolean enter(FileEntry folder, List<String> names) {
        return seen.add(folder.id().number()) && open.add(new Step(folder, names));
    }

    /** Whether a folder was entered before. */
    boolean leadsBack(FileEntry folder) {
        return seen.contains(folder.id().number());
    }

    /** Empty when all were gone through. */
    Optional<Step> next() {
        return Optional.ofNullable(open.poll());
    }

    boolean ended() {
        return open.isEmpty();
    }
}
