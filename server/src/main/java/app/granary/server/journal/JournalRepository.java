package app.granary.server.journal;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.data.domain.Pageable;
import org.springframework.data.jpa.repository.Query;
import org.springframework.data.repository.Repository;

/** Reads; there is no way to change or remove a line. */
interface JournalRepository extends Repository<JournalEntry, Long> {
    String CHOSEN = "(:account = '' or e.account = :account) and (:action = '' or e.action = :action) and (:text = '' or e.words like "
        + ":text escape '\\') and e.at >= :from and e.at < :to ";

    /** @param text a pattern for small letters, or an empty string */
    @Query("select e from JournalEntry e where e.id between :first and :last and " + CHOSEN + "order by e.id desc")
    List<JournalEntry> newest(long first, long last, String account, String action, String text, Instant from, Instant to, Pageable page);

    @Query("select e from JournalEntry e where e.id between :first and :last and " + CHOSEN + "order by e.id")
    List<JournalEntry> oldest(long first, long last, String account, String action, String text, Instant from, Instant to, Pageable page);

    /**
     * What a line is searched by.
     *
     * @param words all of it in small letters
     */
    record Searched(long id, String words, String account, String action) {
    }

    @Query("select new app.granary.server.journal.JournalRepository$Searched(e.id, e.words, e.account, e.action) from JournalEntry e "
        + "where e.id > :after order by e.id")
    List<Searched> searched(long after, Pageable page);

    /** When a line was written, and how what it tells had ended. */
    record Ended(Instant at, Journal.Result result) {
    }

    @Query("select new app.granary.server.journal.JournalRepository$Ended(e.at, e.result) from JournalEntry e "
        + "where e.id between :first and :last and " + CHOSEN + "order by e.id")
    List<Ended> ended(long first, long last, String account, String action, String text, Instant from, Instant to);

    Optional<JournalEntry> findById(long id);

    @Query("select max(e.at) from JournalEntry e")
    Optional<Instant> newest();

    @Query("select distinct e.action from JournalEntry e order by e.action")
    List<String> actions();

    @Query("select distinct e.account from JournalEntry e order by e.account")
    List<String> accounts();

    @Query("select h.number from JournalHead h")
    long count();
}
