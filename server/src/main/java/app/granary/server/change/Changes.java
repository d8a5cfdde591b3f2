package app.granary.server.change;

import java.util.EnumSet;
import java.util.Locale;
import java.util.Set;
import org.springframework.stereotype.Component;

/** What has changed since somebody took note: whoever changes it says so, and open pages ask for it again. Safe for several threads. */
@Component
public class Changes {
    private final Set<Noun> noted = EnumSet.noneOf(Noun.class);

    /** What a page may show. */
    public enum Noun {
        /** How far a run is that is under way. */
        PROGRESS,
        /** Which runs wait, are under way, or have ended. */
        RUNS,
        /** Which destinations are attached, and their room. */
        DESTINATIONS,
        /** Which disks of computers are at hand, and what was read of them. */
        COMPUTERS,
        /** Which disks could be overwritten. */
        TARGETS;

        /** The word on the wire. */
        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    public synchronized void note(Noun what) {
        noted.add(what);
    }

    /** @return what has changed since this was asked before */
    public synchronized Set<Noun> take() {
        Set<Noun> out = Set.copyOf(noted);
        noted.clear();
        return out;
    }
}
