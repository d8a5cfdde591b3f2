package app.granary.core.disk;

import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/**
 * Telling a disk that cannot be told by what it says: the one that is pulled and plugged in again while Granary watches is the one that is
 * meant. Immutable; each look gives the next state.
 *
 * @param asked the attachments that answer alike, at the beginning
 * @param now   the same as they were at the last look
 * @param state how far it is
 */
public record Replugging(Set<String> asked, Set<String> now, State state) {
    /** How far it is. */
    public sealed interface State {
        /** All are there as they were. */
        record Watching() implements State {
        }

        /** One is gone. */
        record Pulled() implements State {
        }

        /** It is back, as that attachment. */
        record Told(String attachment) implements State {
        }

        /** More than one went or came: begin anew. */
        record Unclear() implements State {
        }
    }

    public Replugging {
        asked = Set.copyOf(asked);
        now = Set.copyOf(now);
    }

    public static Replugging of(List<SeenDisk> alike) {
        Set<String> ids = ids(alike);
        return new Replugging(ids, ids, new State.Watching());
    }

    private static Set<String> ids(List<SeenDisk> alike) {
        return new TreeSet<>(alike.stream().map(SeenDisk::attachment).toList());
    }

    /** @param alike those that answer alike now */
    public Replugging look(List<SeenDisk> alike) {
        Set<String> there = ids(alike);
        if (state instanceof State.Told || state instanceof State.Unclear || there.equals(now)) {
            return this;
        }
        if (there.equals(asked)) { // a system that does not count attachments gives the same connector the same name
            return new Replugging(asked, there, new State.Told(without(asked, now).iterator().next()));
        }
        Set<String> gone = without(asked, there);
        Set<String> came = without(there, asked);
        State next;
        if (gone.size() > 1 || came.size() > 1 || gone.isEmpty()) {
            next = new State.Unclear();
        } else {
            next = came.isEmpty() ? new State.Pulled() : new State.Told(came.iterator().next());
        }
        return new Replugging(asked, there, next);
    }

    private static Set<String> without(Set<String> all, Set<String> some) {
        Set<String> out = new TreeSet<>(all);
        out.removeAll(some);
        return out;
    }
}
