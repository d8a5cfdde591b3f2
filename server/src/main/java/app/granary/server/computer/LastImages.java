package app.granary.server.computer;

import java.time.Instant;
import java.util.Map;

/** The newest image of every disk. */
public interface LastImages {
    /** @param sound what its last check said; an image that lacks a part of its disk is none */
    record LastImage(Instant madeAt, boolean sound) {
    }

    /** By the disk's identity, those that have one. */
    Map<String, LastImage> newest();
}
