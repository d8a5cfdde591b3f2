package app.granary.server.journal;

import app.granary.core.journal.LineSieve;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.data.domain.PageRequest;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Finds lines. Most lines of a long journal are never read for a search: the sieve in memory knows that they cannot hold what is asked for.
 */
@Component
class JournalSearch {
    private static final int READ_AT_ONCE = 5000;

    private final JournalRepository repository;
    private final LineSieve sieve = new LineSieve();

    JournalSearch(JournalRepository repository) {
        this.repository = repository;
    }

    /** So that a search seldom waits for it: the first pass over a long journal takes seconds. */
    @Scheduled(fixedDelay = 60_000)
    void keepUp() {
        catchUp();
    }

    /** Lines are committed in order of number (one row is locked for each), so those after the last one read are the new ones. */
    private synchronized void catchUp() {
        List<JournalRepository.Searched> lines = repository.searched(sieve.last(), PageRequest.of(0, READ_AT_ONCE));
        while (!lines.isEmpty()) {
            lines.forEach(line -> sieve.add(line.id(), line.words(), List.of("account " + line.account(), "action " + line.action())));
            lines = lines.size() < READ_AT_ONCE ? List.of() : repository.searched(sieve.last(), PageRequest.of(0, READ_AT_ONCE));
        }
    }

    private synchronized List<LineSieve.Lines> worthReading(JournalFilter filter) {
        catchUp();
        return sieve.mayHold(filter.small(),
            Stream
                .of(filter.account().isEmpty() ? "" : "account " + filter.account(),
                    filter.action().isEmpty() ? "" : "action " + filter.action())
                .filter(each -> !each.isEmpty()).toList());
    }

    /** The newest lines with a number below one. */
    @Transactional(readOnly = true)
    public List<JournalEntry> before(JournalFilter filter, long number, int count) {
        List<JournalEntry> out = new ArrayList<>();
        List<LineSieve.Lines> worth = worthReading(filter);
        for (int i = worth.size() - 1; i >= 0 && out.size() < count; i--) {
            LineSieve.Lines lines = worth.get(i);
            if (lines.from() < number) {
                out.addAll(filter.newest(repository, lines.from(), Math.min(lines.to(), number - 1), count - out.size()));
            }
        }
        return out;
    }

    /** When the lines were written and how what they tell had ended, oldest first. */
    @Transactional(readOnly = true)
    public List<JournalRepository.Ended> ended(JournalFilter filter) {
        return worthReading(filter).stream().flatMap(lines -> filter.ended(repository, lines.from(), lines.to()).stream()).toList();
    }

    /** The oldest lines with a number above one. */
    @Transactional(readOnly = true)
    public List<JournalEntry> after(JournalFilter filter, long number, int count) {
        List<JournalEntry> out = new ArrayList<>();
        for (LineSieve.Lines lines : worthReading(filter)) {
            if (lines.to() > number && out.size() < count) {
                out.addAll(filter.oldest(repository, Math.max(lines.from(), number + 1), lines.to(), count - out.size()));
            }
        }
        return out;
    }
}
