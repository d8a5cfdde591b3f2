package app.granary.server.queue;

import app.granary.core.plan.Afterwards;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * What a person chose of a run while it waited or ran. It goes before what the run was asked to do, and outlives an end of Granary. Of runs
 * that are open it is kept in memory: it is asked for with every line that tells of them.
 */
@Component
public class RunWishes {
    private final JdbcClient database;
    private final Map<UUID, Wish> known = new ConcurrentHashMap<>();

    RunWishes(JdbcClient database) {
        this.database = database;
    }

    private record Wish(Optional<Afterwards> afterwards, Optional<List<String>> mailTo) {
        static final Wish NONE = new Wish(Optional.empty(), Optional.empty());
    }

    /** @param computer what becomes of it when the run has ended well */
    public void afterwards(UUID runId, Afterwards computer) {
        database.sql("merge into run_wish (run_id, afterwards) key (run_id) values (?, ?)").params(runId, computer.word()).update();
        known.remove(runId);
    }

    public Optional<Afterwards> afterwards(UUID runId) {
        return of(runId).afterwards;
    }

    /** @param to who is told how it ended; empty for nobody */
    public void mailTo(UUID runId, List<String> to) {
        database.sql("merge into run_wish (run_id, mail_to) key (run_id) values (?, ?)").params(runId, String.join(", ", to)).update();
        known.remove(runId);
    }

    /** Empty when nobody chose; an empty list in it when somebody chose nobody. */
    public Optional<List<String>> mailTo(UUID runId) {
        return of(runId).mailTo;
    }

    private Wish of(UUID runId) {
        return known.computeIfAbsent(runId, id -> database.sql("select afterwards, mail_to from run_wish where run_id = ?").param(id)
            .query((row, number) -> new Wish(Optional.ofNullable(row.getString(1)).flatMap(Afterwards::parse),
                Optional.ofNullable(row.getString(2)).map(text -> text.isEmpty() ? List.of() : List.of(text.split(", ")))))
            .optional().orElse(Wish.NONE));
    }

    /** After all who ask what was chosen of it. */
    @EventListener
    @Order
    void ended(RunEnds.Ended ended) {
        known.remove(ended.run().id());
    }
}
