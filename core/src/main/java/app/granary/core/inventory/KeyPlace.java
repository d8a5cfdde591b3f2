package app.granary.core.inventory;

import java.util.Locale;
import java.util.Optional;

/** Where the key of an encrypted disk is kept, and whether that is any help on a bad day. */
public enum KeyPlace {
    UNKNOWN("not known"), PAPER("on paper"), SAFE("in the fire safe"), PASSWORD_STORE("in a password store elsewhere"),
    OTHER_COMPUTER("on another computer"),
    SAME_COMPUTER("on this same computer");

    private final String phrase;

    KeyPlace(String phrase) {
        this.phrase = phrase;
    }

    /** The word on the wire: lower case with hyphens. */
    public String word() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** In words, as it follows "the key is kept". */
    public String phrase() {
        return phrase;
    }

    public static Optional<KeyPlace> parse(String word) {
        for (KeyPlace each : values()) {
            if (each.word().equals(word)) {
                return Optional.of(each);
            }
        }
        return Optional.empty();
    }

    /**
     * What is wrong with keeping it there: a key that lies on the computer it opens dies with it (common practice, no source). A note that
     * names the computer counts as that too.
     *
     * @param note free words on the place
     * @return a sentence, or empty when nothing is wrong
     */
    public static Optional<String> warning(String computer, Encryption encryption, KeyPlace place, String note) {
        if (encryption != Encryption.VOLUMES) {
            return Optional.empty();
        }
        boolean namesIt = !computer.isBlank() && note.toLowerCase(Locale.ROOT).contains(computer.strip().toLowerCase(Locale.ROOT));
        if (place == SAME_COMPUTER || namesIt) {
            return Optional.of("The key that opens " + computer + " is kept on " + computer
                + " itself and would be lost with it. Keep a copy on paper or in the fire safe.");
        }
        if (place == UNKNOWN) {
            return Optional
                .of(computer + " is encrypted and nobody has noted where its key is kept. Without it no image of it can be opened.");
        }
        return Optional.empty();
    }
}
