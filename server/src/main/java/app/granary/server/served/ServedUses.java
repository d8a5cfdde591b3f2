package app.granary.server.served;

import app.granary.server.image.Uses;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** An image that is served, or runs as a computer, is not released meanwhile. */
@Component
class ServedUses implements Uses {
    private final ServedImages served;

    ServedUses(ServedImages served) {
        this.served = served;
    }

    @Override
    public Map<UUID, Set<String>> now() {
        Map<UUID, Set<String>> out = new HashMap<>();
        for (ServedImages.Served each : served.all()) { // by the copy that is read, as runs tell it
            out.computeIfAbsent(each.imageId(), copy -> new HashSet<>()).add(each.computer().isPresent()
                ? "it runs as a virtual computer, started by " + each.by() : "it is served as a disk by " + each.by());
        }
        return out;
    }
}
