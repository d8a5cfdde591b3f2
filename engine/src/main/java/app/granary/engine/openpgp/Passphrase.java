package app.granary.engine.openpgp;

import java.util.Arrays;

/**
 * What opens an encrypted image. It is kept in memory only while it is needed, never written, and does not show itself: neither
 * {@link #toString} nor an error holds it.
 */
public final class Passphrase {
    /** None is known, or none is needed. */
    public static final Passphrase NONE = new Passphrase(new char[0]);

    private final char[] text;

    private Passphrase(char[] text) {
        this.text = text;
    }

    /** @param text an empty one is {@link #NONE} */
    public static Passphrase of(char[] text) {
        return text.length == 0 ? NONE : new Passphrase(text.clone());
    }

    public boolean isNone() {
        return text.length == 0;
    }

    /** A copy, to be told to the computer that does the work with it and wiped after that. */
    public char[] forTheLine() {
        return text.clone();
    }

    char[] text() {
        return text.clone();
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Passphrase that && Arrays.equals(text, that.text);
    }

    @Override
    public int hashCode() {
        return isNone() ? 0 : 1; // tells nothing
    }

    @Override
    public String toString() {
        return isNone() ? "no passphrase" : "a passphrase";
    }
}
