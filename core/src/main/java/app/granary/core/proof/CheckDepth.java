package app.granary.core.proof;

import java.util.Locale;

/** How deep an image is checked; each step includes those before it. */
public enum CheckDepth {
    /** All parts are there and have the right length. */
    PRESENCE,
    /** And every stored byte matches its SHA-256 digest. */
    DIGESTS,
    /** And every frame decodes to the bytes that were read, by CRC-32C, and the partition table in it is readable. */
    FRAMES;

    /** The word on the command line and on the wire. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    public boolean includes(CheckDepth other) {
        return compareTo(other) >= 0;
    }
}
