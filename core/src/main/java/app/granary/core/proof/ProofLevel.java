package app.granary.core.proof;

import java.util.Locale;

/** How far up the ladder an image is proven; each level includes those before it. The strokes of its tally. */
public enum ProofLevel {
    /** All parts are there and have the right length. */
    COMPLETE,
    /** And every stored byte matches its SHA-256 digest. */
    SOUND,
    /** And every frame decodes to the bytes that were read, by CRC-32C, and the partition table in it is readable. */
    READABLE,
    /** And it was restored to a scratch file by the code of a real restore, which was then read back and compared with the chunk index. */
    REHEARSED,
    /** And a person started a computer from it and looked; signed, not measured. */
    BOOTED;

    /** The word on the command line, on the wire and on the screen. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    public boolean includes(ProofLevel other) {
        return compareTo(other) >= 0;
    }
}
