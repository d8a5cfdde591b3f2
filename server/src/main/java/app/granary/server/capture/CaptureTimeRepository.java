package app.granary.server.capture;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface CaptureTimeRepository extends JpaRepository<CaptureTime, UUID> {
    /**
     * A capture that was done.
     *
     * @param plainSeconds as it was estimated by the rates alone; 0 when it was not
     */
    record Done(String destinationId, String diskId, Instant begunAt, Instant endedAt, double plainSeconds) {
    }

    /** With one codec, newest first. */
    @Query("select new app.granary.server.capture.CaptureTimeRepository$Done(r.destinationId, r.diskId, r.begunAt, r.endedAt, "
        + "t.plainSeconds)"
        + " from CaptureTime t join Run r on r.id = t.runId where t.codec = :codec and cast(r.state as string) = 'DONE' order by "
        + "r.endedAt desc")
    List<Done> done(String codec, Limit limit);
}
