package app.granary.server.image;

import java.time.Instant;

/** A row of {@link ImageRepository#newest}: the newest image of a disk, and what its last check said; null when it was never checked. */
interface NewestImage {
    String getDiskId();

    Instant getMadeAt();

    Boolean getOk();
}
