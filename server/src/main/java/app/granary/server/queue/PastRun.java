package app.granary.server.queue;

import app.granary.server.journal.Journal;
import java.time.Clock;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionOperations;

/** Runs of a made-up past, written down as those of today are, under a clock that is moved between beginning and end. */
@Component
public class PastRun {
    private final Orders orders;
    private final RunRepository repository;
    private final Journal journal;
    private final TransactionOperations transactions;
    private final Clock clock;

    PastRun(Orders orders, RunRepository repository, Journal journal, TransactionOperations transactions, Clock clock) {
        this.orders = orders;
        this.repository = repository;
        this.journal = journal;
        this.transactions = transactions;
        this.clock = clock;
    }

    /** @return as if it were under way; it holds nothing, since its work is done by whoever tells of it */
    public LiveRun begun(NewRun asked, Record order, String who) {
        RunRow run = new RunRow(asked, clock.instant(), who);
        run.begin(asked.imageName(), clock.instant());
        return transactions.execute(status -> {
            RunRow kept = repository.save(run);
            orders.keep(kept, order);
            return new LiveRun(kept, "", changed -> {});
        });
    }

    /** @param seen whether a person took note of it */
    public void ended(LiveRun past, Run.State state, String sentence, Took took, boolean seen) {
        RunRow run = past.row();
        run.end(state, clock.instant(), sentence);
        if (seen) {
            run.see(clock.instant());
        }
        repository.save(run);
        orders.ended(run, took);
        Journal.Result result = state == Run.State.DONE ? Journal.Result.DONE : Journal.Result.FAILED;
        journal.add(run.begunBy(), run.kind().word(), run.subject(), result, run.outcome(), run.facts(took));
    }

    /** A check of the past that found damage. */
    public void foundDamage(LiveRun past) {
        past.row().damageFound();
    }
}
