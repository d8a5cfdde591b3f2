package app.granary.server.journal;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.data.domain.Pageable;
import org.springframework.data.jpa.repository.Query;
import org.springframework.data.repository.Repository;

/** Adds and reads; there is no way to change or remove a line. */
interface JournalRepository extends Repository<JournalEntry, Long> {
    JournalEntry save(JournalEntry entry);

    List<JournalEntry> findByIdLessThanOrderByIdDesc(long before, Pageable page);

    List<JournalEntry> findAllByOrderById();

    @Query("select max(e.at) from JournalEntry e")
    Optional<Instant> newest();

    long count();
}
