package app.granary.server.image;

import app.granary.engine.elsewhere.ElsewhereFile;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import java.util.UUID;

/** One file of an image made elsewhere, as it was when it was added, with the digest it is to have since. */
@Entity
class ImageFile {
    @Id
    private UUID id;
    private UUID copyId;
    private int place;
    private String name;
    private long bytes;
    private String digest;
    private String source;

    protected ImageFile() {
    }

    ImageFile(UUID copyId, int place, ElsewhereFile file) {
        this.id = UUID.randomUUID();
        this.copyId = copyId;
        this.place = place;
        this.name = file.name();
        this.bytes = file.bytes();
        this.digest = file.digest();
        this.source = file.source();
    }

    ElsewhereFile file() {
        return new ElsewhereFile(name, bytes, digest, source);
    }

    /** Keeps what was read of it where there was nothing to hold it against; what a list said stays. */
    void learn(String found, String from) {
        if (digest.isEmpty()) {
            digest = found;
            source = from;
        }
    }
}
