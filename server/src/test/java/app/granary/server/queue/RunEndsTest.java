package app.granary.server.queue;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.core.claim.DeviceClaim;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.destination.Promises;
import app.granary.server.journal.Journal;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.transaction.support.SimpleTransactionStatus;
import org.springframework.transaction.support.TransactionCallback;
import org.springframework.transaction.support.TransactionOperations;

/** A run's end and what it means for what was asked for are kept together. */
class RunEndsTest {
    private final List<String> happened = new ArrayList<>();
    private final RunRepository repository = mock(RunRepository.class);
    private final Work<Asked> work = new Work<>() {
        @Override
        public Run.Kind kind() {
            return Run.Kind.CHECK;
        }

        @Override
        public Class<Asked> orderType() {
            return Asked.class;
        }

        @Override
        public List<DeviceClaim> claims(Run run, Asked order) {
            return List.of();
        }

        @Override
        public String perform(LiveRun running, Asked order, Passphrase passphrase) {
            return "";
        }

        @Override
        public void ended(Run run, Took took) {
            happened.add("meant");
            if (broken) {
                throw new IllegalStateException("the database is away");
            }
        }
    };
    private final TransactionOperations transactions = new TransactionOperations() {
        @Override
        public <T> T execute(TransactionCallback<T> action) {
            happened.add("begin");
            T result = action.doInTransaction(new SimpleTransactionStatus());
            happened.add("commit");
            return result;
        }
    };
    private final Orders orders = new Orders(List.of(work), mock(WorkOrderRepository.class), new ObjectMapper());
    private final RunEnds ends = new RunEnds(orders, new GoingOn(machine -> false, orders), repository,
        new Promises(), new Passphrases(), mock(Journal.class), mock(ApplicationEventPublisher.class), transactions, Clock.systemUTC());
    private boolean broken = true;

    record Asked(int what) {
    }

    /** A restore was read as failed without a reason, and carrying it on was refused: what its run's end meant for it came later. */
    @Test
    void whatAnEndMeansIsStoredWithItOrBothAreTriedAgain() {
        when(repository.save(any())).thenAnswer(call -> {
            happened.add("ended");
            return call.getArgument(0);
        });
        RunRow run = new RunRow(NewRun.of(Run.Kind.CHECK, new NewRun.About("DATUM", "d", "disk 1", "p", "PEG-1"), "x"),
            Clock.systemUTC().instant(), "ada");
        ends.end(run, RunEnds.Outcome.failed("It failed."), Took.NOTHING);
        assertEquals(List.of("begin", "meant"), happened);
        happened.clear();
        broken = false;
        ends.storeWhatCouldNotBe();
        assertEquals(List.of("begin", "meant", "ended", "commit"), happened);
        happened.clear();
        ends.storeWhatCouldNotBe();
        assertEquals(List.of(), happened);
    }
}
