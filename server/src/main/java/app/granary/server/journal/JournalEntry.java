package app.granary.server.journal;

import app.granary.core.journal.JournalChain;
import app.granary.core.journal.JournalLine;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import java.time.Instant;

/** One line of the journal. Lines are added, never changed: the database lets this program do no more. */
@Entity
class JournalEntry {
    @Id
    private long id;
    private Instant at;
    private String account;
    private String action;
    private String subject;
    private String devices;
    @Enumerated(EnumType.STRING)
    private Journal.Result result;
    private String sentence;
    private String figures;
    private String evidence;
    private long corrects;
    private String seal;
    /** All of it in small letters, to search in. */
    @Column(insertable = false, updatable = false)
    private String words;

    protected JournalEntry() {
    }

    JournalEntry(JournalLine line, Journal.Result result, String sealBefore) {
        this.id = line.number();
        this.at = line.at();
        this.account = line.account();
        this.action = line.action();
        this.subject = line.subject();
        this.devices = line.devices();
        this.result = result;
        this.sentence = line.sentence();
        this.figures = line.figures();
        this.evidence = line.evidence();
        this.corrects = line.corrects();
        this.seal = JournalChain.seal(sealBefore, line);
    }

    JournalLine line() {
        return new JournalLine(id, at, account, action, subject, devices, result.word(), sentence, figures, evidence, corrects);
    }

    long id() {
        return id;
    }

    String seal() {
        return seal;
    }
}
