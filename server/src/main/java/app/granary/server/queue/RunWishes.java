package app.granary.server.queue;

import app.granary.core.plan.Afterwards;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** What a person chose of a run while it waited or ran. It goes before what the run was asked to do, and outlives an end of Granary. */
@Component
public class RunWishes {
    private final JdbcClient database;

    RunWishes(JdbcClient database) {
        this.database = database;
    }

    /** @param computer what becomes of it when the run has ended well */
    public void afterwards(UUID runId, Afterwards computer) {
        database.sql("merge into run_wish (run_id, afterwards) key (run_id) values (?, ?)").params(runId, computer.word()).update();
    }

    public Optional<Afterwards> afterwards(UUID runId) {
        return column("afterwards", runId).flatMap(Afterwards::parse);
    }

    /** @param to who is told how it ended; empty for nobody */
    public void mailTo(UUID runId, List<String> to) {
        database.sql("merge into run_wish (run_id, mail_to) key (run_id) values (?, ?)").params(runId, String.join(", ", to)).update();
    }

    /** Empty when nobody chose; an empty list in it when somebody chose nobody. */
    public Optional<List<String>> mailTo(UUID runId) {
        return column("mail_to", runId).map(text -> text.isEmpty() ? List.of() : List.of(text.split(", ")));
    }

    private Optional<String> column(String name, UUID runId) {
        return database.sql("select " + name + " from run_wish where run_id = ? and " + name + " is not null").param(runId)
            .query(String.class).optional();
    }
}
