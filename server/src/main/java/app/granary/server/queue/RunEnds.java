package app.granary.server.queue;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.destination.Promises;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.time.Clock;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionOperations;

/** How runs end: each in a state, a sentence and a journal line, whatever ended it. */
@Component
public class RunEnds {
    private static final Logger LOG = LoggerFactory.getLogger(RunEnds.class);

    private final Orders orders;
    private final GoingOn elsewhere;
    private final RunRepository repository;
    private final Promises promises;
    private final Passphrases passphrases;
    private final Journal journal;
    private final ApplicationEventPublisher publisher;
    private final TransactionOperations transactions;
    private final Clock clock;
    /** Ended, and not stored yet because the database failed. */
    private final Queue<Unstored> unstored = new ConcurrentLinkedQueue<>();

    RunEnds(Orders orders, GoingOn elsewhere, RunRepository repository, Promises promises, Passphrases passphrases, Journal journal,
        ApplicationEventPublisher publisher, TransactionOperations transactions, Clock clock) {
        this.orders = orders;
        this.elsewhere = elsewhere;
        this.repository = repository;
        this.promises = promises;
        this.passphrases = passphrases;
        this.journal = journal;
        this.publisher = publisher;
        this.transactions = transactions;
        this.clock = clock;
    }

    private record Unstored(RunRow run, Took took) {
    }

    /**
     * A run has ended, one way or another.
     *
     * @param order   what it was asked to do
     * @param machine that did it, among those that joined; an empty string for the office's own
     */
    public record Ended(Run run, Record order, String machine) {
    }

    record Outcome(Run.State state, Journal.Result result, String sentence) {
        static Outcome failed(String sentence) {
            return new Outcome(Run.State.FAILED, Journal.Result.FAILED, sentence);
        }

        static Outcome stopped(String sentence) {
            return new Outcome(Run.State.STOPPED, Journal.Result.STOPPED, sentence);
        }
    }

    Outcome outcome(LiveRun running, Passphrase passphrase) {
        RunRow run = running.row();
        try {
            if (running.again()) {
                elsewhere.await(running);
            }
            return new Outcome(Run.State.DONE, Journal.Result.DONE, orders.perform(running, passphrase));
        } catch (FaultException fault) {
            String sentence = fault.getMessage() + orders.left(run, fault.fault())
                + (running.again() && fault.fault().kind() != Fault.Kind.STOPPED ? " " + orders.interrupted(run) : "");
            if (fault.fault().kind() == Fault.Kind.DAMAGED) {
                run.damageFound();
            }
            return fault.fault().kind() == Fault.Kind.STOPPED ? Outcome.stopped(sentence) : Outcome.failed(sentence);
        } catch (Refused refused) {
            return Outcome.failed(refused.getMessage());
        } catch (Throwable unforeseen) { // an Error too: it ends this run, and what the run holds must come free
            LOG.error("run {} failed", run.id(), unforeseen);
            return Outcome.failed("It failed for a reason Granary did not foresee (" + unforeseen.getMessage() + "). "
                + (run.kind() == Run.Kind.CAPTURE ? "No image was named; the disk is untouched."
                    : "Look at its devices, then start it again."));
        }
    }

    /** The outcome is stored first, and once, with what it means for its kind: whoever is told of it afterwards cannot undo it. */
    void end(RunRow run, Outcome outcome, Took took) {
        promises.release(run.id());
        passphrases.forget(run.id());
        orders.forget(run);
        run.end(outcome.state, clock.instant(), outcome.sentence);
        Unstored ended = new Unstored(run, took);
        if (!stored(ended)) {
            unstored.add(ended);
        }
    }

    void publish(Ended ended) {
        quietly(ended.run, () -> publisher.publishEvent(ended));
    }

    void tell(RunRow run, Outcome outcome, Took took) {
        quietly(run, () -> journal.add(run.begunBy(), run.kind().word(), run.subject(), outcome.result, run.outcome(), run.facts(took)));
    }

    /** One that was taken out of the queue: a person knows, and says so in the journal. */
    void unbegun(RunRow run, String why) {
        end(run, Outcome.stopped(why), Took.NOTHING);
    }

    /** One that is not under way and will not be: found open when Granary starts, or unable to begin. */
    void dropped(RunRow run, Outcome outcome) {
        end(run, outcome, Took.NOTHING);
        tell(run, outcome, Took.NOTHING);
    }

    private boolean stored(Unstored ended) {
        try {
            transactions.executeWithoutResult(status -> {
                orders.ended(ended.run, ended.took);
                repository.save(ended.run);
            });
            return true;
        } catch (RuntimeException failed) {
            LOG.error("the outcome of run {} could not be stored yet", ended.run.id(), failed);
            return false;
        }
    }

    void storeWhatCouldNotBe() {
        for (Unstored next = unstored.peek(); next != null && stored(next); next = unstored.peek()) {
            unstored.remove(next);
        }
    }

    void quietly(Run run, Runnable listener) {
        try {
            listener.run();
        } catch (RuntimeException failed) {
            LOG.error("run {} has ended, and telling of it failed", run.id(), failed);
        }
    }
}
