package app.granary.server.queue;

import app.granary.core.claim.DeviceClaim;
import app.granary.core.fault.Fault;
import app.granary.engine.openpgp.Passphrase;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.ObjectReader;
import java.io.IOException;
import java.time.Instant;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/** Runs with what each was asked to do, and the work that does it. */
@Component
public class Orders {
    private final Map<Run.Kind, Work<?>> works = new EnumMap<>(Run.Kind.class);
    private final WorkOrderRepository repository;
    private final ObjectMapper json;
    /** Of runs that wait or are under way. */
    private final Map<UUID, Record> open = new ConcurrentHashMap<>();

    Orders(List<Work<?>> works, WorkOrderRepository repository, ObjectMapper json) {
        works.forEach(each -> this.works.put(each.kind(), each));
        this.repository = repository;
        this.json = json;
    }

    /** What was asked of a run that waits, is under way or has just ended. */
    Record of(Run run) {
        return open.computeIfAbsent(run.id(), id -> read(run));
    }

    /** The same, of any run; empty when it is not kept. */
    Optional<Record> kept(Run run) {
        try {
            return Optional.ofNullable(open.get(run.id())).or(() -> Optional.of(read(run)));
        } catch (IllegalStateException unknown) {
            return Optional.empty();
        }
    }

    private Record read(Run run) {
        WorkOrder stored = repository.findById(run.id())
            .orElseThrow(() -> new IllegalStateException("what run " + run.id() + " was asked to do is not kept"));
        ObjectReader reader = json.readerFor(works.get(run.kind()).orderType()).without(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES);
        try {
            return reader.readValue(stored.document());
        } catch (JsonProcessingException damaged) {
            throw new IllegalStateException("what run " + run.id() + " was asked to do cannot be read: " + damaged.getOriginalMessage(),
                damaged);
        }
    }

    /** While it is asked for. */
    void hold(Run run, Record order) {
        open.put(run.id(), order);
    }

    /** Within the transaction that stores the run. */
    void keep(Run run, Record order) {
        try {
            repository.save(new WorkOrder(run.id(), works.get(run.kind()).version(), json.writeValueAsString(order)));
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    /** Whether it is kept what was asked of it: a run of an older Granary, or one that was cut short in being asked for, may have none. */
    boolean known(Run run) {
        try {
            return of(run) != null;
        } catch (IllegalStateException unknown) {
            return false;
        }
    }

    void forget(Run run) {
        open.remove(run.id());
    }

    List<DeviceClaim> claims(Run run) {
        return bound(run).claims();
    }

    String name(Run run, Instant now) {
        return bound(run).name(now);
    }

    String machine(Run run) {
        return bound(run).machine();
    }

    boolean staysThere(Run run) {
        return bound(run).staysThere();
    }

    String notYet(Run run) {
        return bound(run).notYet();
    }

    boolean needsPassphrase(Run run) {
        return bound(run).needsPassphrase();
    }

    String perform(LiveRun running, Passphrase passphrase) throws IOException {
        return bound(running.run()).perform(running, passphrase);
    }

    boolean same(Run asked, Run other) {
        return asked.kind() == other.kind() && works.get(asked.kind()).same(asked, other);
    }

    String twice(Run asked) {
        return works.get(asked.kind()).twice();
    }

    String left(Run run, Fault fault) {
        return works.get(run.kind()).left(run, fault);
    }

    String interrupted(Run run) {
        return works.get(run.kind()).interrupted(run);
    }

    void ended(Run run, Took took) {
        works.get(run.kind()).ended(run, took);
    }

    private Bound<?> bound(Run run) {
        return bind(works.get(run.kind()), run, of(run));
    }

    private static <O extends Record> Bound<O> bind(Work<O> work, Run run, Record order) {
        return new Bound<>(work, run, work.orderType().cast(order));
    }

    /** Work with its own order, so that neither is taken for another kind's. */
    private record Bound<O extends Record>(Work<O> work, Run run, O order) {
        List<DeviceClaim> claims() {
            return work.claims(run, order);
        }

        String name(Instant now) {
            return work.name(run, order, now);
        }

        String machine() {
            return work.machine(run, order);
        }

        boolean staysThere() {
            return work.staysThere(run, order);
        }

        String notYet() {
            return work.notYet(run, order);
        }

        boolean needsPassphrase() {
            return work.needsPassphrase(run, order);
        }

        String perform(LiveRun running, Passphrase passphrase) throws IOException {
            return work.perform(running, order, passphrase);
        }
    }
}
