package app.granary.core.inventory;

import java.util.Locale;
import java.util.Optional;

/** Whether a computer's disks are encrypted. */
public enum Encryption {
    UNKNOWN, NONE, VOLUMES;

    /** The word on the wire. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    public static Optional<Encryption> parse(String word) {
        for (Encryption each : values()) {
            if (each.word().equals(word)) {
                return Optional.of(each);
            }
        }
        return Optional.empty();
    }
}
