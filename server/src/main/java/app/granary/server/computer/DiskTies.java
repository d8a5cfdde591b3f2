package app.granary.server.computer;

import java.sql.Timestamp;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** What persons said an attachment is that does not tell by itself. It holds as long as the disk stays plugged in. */
@Component
class DiskTies {
    private final JdbcClient database;

    DiskTies(JdbcClient database) {
        this.database = database;
    }

    /** Disk on record by attachment. */
    Map<String, String> all() {
        Map<String, String> out = new HashMap<>();
        database.sql("select attachment, disk_id from disk_tie").query(row -> {
            out.put(row.getString(1), row.getString(2));
        });
        return out;
    }

    /**
     * Drops what was said of attachments that are no more: a system that does not count them gives the next disk on that connector the same
     * name.
     */
    void keepOnly(Set<String> attachments) {
        all().keySet().stream().filter(each -> !attachments.contains(each))
            .forEach(gone -> database.sql("delete from disk_tie where attachment = ?").param(gone).update());
    }

    void tie(String attachment, String diskId, String who, Instant at) {
        database.sql("merge into disk_tie (attachment, disk_id, tied_at, tied_by) key (attachment) values (?, ?, ?, ?)")
            .params(attachment, diskId, Timestamp.from(at), who).update();
    }
}
