package app.granary.core.plan;

import java.util.Locale;
import java.util.Optional;

/** What becomes of the computer when its image is made. */
public enum Afterwards {
    NOTHING("is left as it is"), OFF("is switched off"), RESTART("is started again");

    private final String phrase;

    Afterwards(String phrase) {
        this.phrase = phrase;
    }

    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    public String phrase() {
        return phrase;
    }

    public static Optional<Afterwards> parse(String word) {
        for (Afterwards each : values()) {
            if (each.word().equals(word)) {
                return Optional.of(each);
            }
        }
        return Optional.empty();
    }
}
