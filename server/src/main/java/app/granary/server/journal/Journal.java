package app.granary.server.journal;

import java.time.Clock;
import java.time.Instant;
import java.util.Locale;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Where every step of the work leaves a line. */
@Service
public class Journal {
    /** How what was done ended. */
    public enum Result {
        BEGUN, DONE, STOPPED, FAILED, NOTE;

        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    private final JournalRepository repository;
    private final Clock clock;

    Journal(JournalRepository repository, Clock clock) {
        this.repository = repository;
        this.clock = clock;
    }

    /** When its newest line is from; empty while there is none. */
    @Transactional(readOnly = true)
    public Optional<Instant> newest() {
        return repository.newest();
    }

    /**
     * @param account who did it
     * @param action  what was done, in a few words
     * @param subject to which disk, image or account
     */
    @Transactional
    public void add(String account, String action, String subject, Result result, String sentence) {
        String text = sentence.length() > 2000 ? sentence.substring(0, 1999) + "…" : sentence;
        repository.save(new JournalEntry(clock.instant(), account, action, subject, result, text));
    }
}
