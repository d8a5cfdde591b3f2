package app.granary.core.inventory;

import java.util.Locale;

/** What starts a computer before its operating system does. */
public enum Firmware {
    UNKNOWN, UEFI, BIOS;

    /** The word on the wire and in reports. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** {@link #UNKNOWN} for any other word. */
    public static Firmware parse(String word) {
        for (Firmware each : values()) {
            if (each.word().equalsIgnoreCase(word.strip())) {
                return each;
            }
        }
        return UNKNOWN;
    }
}
