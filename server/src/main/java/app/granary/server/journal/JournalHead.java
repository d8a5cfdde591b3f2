package app.granary.server.journal;

import app.granary.core.journal.JournalChain;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;

/** The last line's number and seal, held while the next is written, so that lines follow one another. There is one row. */
@Entity
class JournalHead {
    static final int ONLY = 1;
    @Id
    private int id;
    private long number;
    private String seal;

    protected JournalHead() {
    }

    long next() {
        return number + 1;
    }

    String seal() {
        return seal.isEmpty() ? JournalChain.START : seal;
    }

    void moveTo(JournalEntry last) {
        number = last.id();
        seal = last.seal();
    }
}
