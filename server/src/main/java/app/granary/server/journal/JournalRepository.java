package app.granary.server.journal;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.data.domain.Pageable;
import org.springframework.data.jpa.repository.Query;
import org.springframework.data.repository.Repository;

/** Reads; there is no way to change or remove a line. */
interface JournalRepository extends Repository<JournalEntry, Long> {
    String CHOSEN = "(:account = '' or e.account = :account) and (:action = '' or e.action = :action) and (:text = '' or e.words like :text escape '\\') and e.at >= :from and e.at < :to ";

    /** @param text a pattern for small letters, or an empty string */
    @Query("select e from JournalEntry e where e.id < :before and " + CHOSEN + "order by e.id desc")
    List<JournalEntry> before(long before, String account, String action, String text, Instant from, Instant to, Pageable page);

    @Query("select e from JournalEntry e where e.id > :after and " + CHOSEN + "order by e.id")
    List<JournalEntry> after(long after, String account, String action, String text, Instant from, Instant to, Pageable page);

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
