package app.granary.server.journal;

import app.granary.core.journal.JournalEnd;
import app.granary.core.journal.JournalLine;
import jakarta.persistence.EntityManager;
import jakarta.persistence.LockModeType;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** Where every step of the work leaves a line. */
@Service
public class Journal {
    private static final int LONGEST = 2000;
    private static final int LONGEST_LIST = 1000;

    /** How what was done ended. */
    public enum Result {
        BEGUN, DONE, STOPPED, FAILED, NOTE;

        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /**
     * What a line says beyond its sentence.
     *
     * @param devices  serial numbers or identities of what took part
     * @param figures  named numbers; sizes in bytes, times in seconds
     * @param evidence the page that shows it, as a path; an empty string for none
     * @param corrects the number of the line it corrects; 0 for none
     */
    public record Facts(List<String> devices, Map<String, Long> figures, String evidence, long corrects) {
        public static final Facts NONE = new Facts(List.of(), Map.of(), "", 0);

        public static Facts of(List<String> devices, Map<String, Long> figures, String evidence) {
            return new Facts(devices, figures, evidence, 0);
        }

        private String written() {
            return new TreeMap<>(figures).entrySet().stream().map(each -> each.getKey() + "=" + each.getValue())
                .collect(Collectors.joining(" "));
        }
    }

    private final JournalRepository repository;
    private final EntityManager database;
    private final JournalEndFile end;
    private final Clock clock;

    Journal(JournalRepository repository, EntityManager database, JournalEndFile end, Clock clock) {
        this.end = end;
        this.repository = repository;
        this.database = database;
        this.clock = clock;
    }

    /** When its newest line is from; empty while there is none. */
    @Transactional(readOnly = true)
    public Optional<Instant> newest() {
        return repository.newest();
    }

    @Transactional
    public void add(String account, String action, String subject, Result result, String sentence) {
        add(account, action, subject, result, sentence, Facts.NONE);
    }

    /**
     * @param account who did it
     * @param action  what was done, in a few words
     * @param subject to which disk, image or account
     */
    @Transactional
    public void add(String account, String action, String subject, Result result, String sentence, Facts facts) {
        JournalHead head = database.find(JournalHead.class, JournalHead.ONLY, LockModeType.PESSIMISTIC_WRITE);
        JournalLine line = new JournalLine(head.next(), clock.instant().truncatedTo(ChronoUnit.MILLIS), account, action, subject,
            shortened(String.join(", ", facts.devices), LONGEST_LIST), result.word(),
            shortened(sentence, LONGEST), shortened(facts.written(), LONGEST_LIST), facts.evidence, facts.corrects);
        JournalEntry entry = new JournalEntry(line, result, head.seal());
        database.persist(entry);
        head.moveTo(entry);
        noteWhenKept(new JournalEnd(entry.id(), entry.seal(), line.at()));
    }

    /** The last of a transaction's lines is noted once that is in the database for good. */
    private void noteWhenKept(JournalEnd reached) {
        for (TransactionSynchronization each : TransactionSynchronizationManager.getSynchronizations()) {
            if (each instanceof WhenKept noting) {
                noting.reached = reached;
                return;
            }
        }
        TransactionSynchronizationManager.registerSynchronization(new WhenKept(reached));
    }

    private final class WhenKept implements TransactionSynchronization {
        private JournalEnd reached;

        WhenKept(JournalEnd reached) {
            this.reached = reached;
        }

        @Override
        public void afterCommit() {
            end.reached(reached);
        }
    }

    private static String shortened(String text, int longest) {
        return text.length() > longest ? text.substring(0, longest - 1) + "…" : text;
    }
}
