package app.granary.server.queue;

import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.time.Clock;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.domain.PageRequest;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Runs as they are kept. */
@Service
public class RunRecords {
    private final RunRepository repository;
    private final Journal journal;
    private final Clock clock;

    RunRecords(RunRepository repository, Journal journal, Clock clock) {
        this.repository = repository;
        this.journal = journal;
        this.clock = clock;
    }

    /** @param most 1 or more */
    public List<Run> newest(int most) {
        return List.copyOf(repository.findAllByOrderByBegunAtDesc(PageRequest.of(0, most)));
    }

    public Optional<Run> find(UUID id) {
        return repository.findById(id).map(Run.class::cast);
    }

    /** Those that wait or are under way. */
    public List<Run> open() {
        return java.util.stream.Stream.of(Run.State.RUNNING, Run.State.QUEUED).flatMap(state -> repository.findByState(state).stream())
            .map(Run.class::cast).toList();
    }

    /** The last one of an image of that name there. */
    public Optional<Run> last(Run.Kind kind, String destinationId, String imageName) {
        return repository.findFirstByDestinationIdAndImageNameAndKindOrderByBegunAtDesc(destinationId, imageName, kind)
            .map(Run.class::cast);
    }

    public List<LocalDate> nightsSince(LocalDate first) {
        return repository.nightsSince(first);
    }

    /** In the order they began in. */
    public List<Run> ofNight(LocalDate night) {
        return List.copyOf(repository.findByNightOrderByBegunAt(night));
    }

    /** Takes note that a run failed, so that it is not told of again. */
    @Transactional
    public void see(UUID id, String who) {
        RunRow run = repository.findById(id).orElseThrow(() -> Refused.notFound("run"));
        run.see(clock.instant());
        repository.save(run);
        journal.add(who, "take note", run.subject(), Journal.Result.NOTE, who + " took note: " + run.outcome());
    }
}
