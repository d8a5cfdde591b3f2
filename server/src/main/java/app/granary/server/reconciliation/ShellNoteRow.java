package app.granary.server.reconciliation;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import java.time.Instant;

/** A note of a bare shell that was taken on: SHA-256 of the drive's id and the note, in hexadecimal. */
@Entity
class ShellNoteRow {
    @Id
    private String digest;
    private Instant takenOnAt;

    protected ShellNoteRow() {
    }

    ShellNoteRow(String digest, Instant takenOnAt) {
        this.digest = digest;
        this.takenOnAt = takenOnAt;
    }
}
