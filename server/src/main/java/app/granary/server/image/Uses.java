package app.granary.server.image;

import java.util.Map;
import java.util.Set;
import java.util.UUID;

/** What works with images just now, so that none is released under its hands. */
public interface Uses {
    /** By image, what uses it, in words. */
    Map<UUID, Set<String>> now();
}
