package app.granary.server.journal;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import java.time.Instant;

/** One line of the journal. Lines are added, never changed. */
@Entity
class JournalEntry {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    private Long id;
    private Instant at;
    private String account;
    private String action;
    private String subject;
    @Enumerated(EnumType.STRING)
    private Journal.Result result;
    private String sentence;

    protected JournalEntry() {
    }

    JournalEntry(Instant at, String account, String action, String subject, Journal.Result result, String sentence) {
        this.at = at;
        this.account = account;
        this.action = action;
        this.subject = subject;
        this.result = result;
        this.sentence = sentence;
    }

    long id() {
        return id;
    }

    Instant at() {
        return at;
    }

    String account() {
        return account;
    }

    String action() {
        return action;
    }

    String subject() {
        return subject;
    }

    Journal.Result result() {
        return result;
    }

    String sentence() {
        return sentence;
    }
}
