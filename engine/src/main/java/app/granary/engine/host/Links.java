package app.granary.engine.host;

import java.util.Locale;

/** Effective rates of links in bytes per second (common practice, no source): what is gained in use, not the nominal figure. */
public final class Links {
    public static final long USB_2 = 35_000_000;
    public static final long USB_3 = 400_000_000;
    public static final long SATA = 550_000_000;
    public static final long GIGABIT = 112_000_000;
    public static final long NVME = 2_000_000_000;

    private Links() {
    }

    /** From lsblk's TRAN; SATA's where it does not tell. */
    public static long rate(String bus) {
        return switch (bus.toLowerCase(Locale.ROOT)) {
            case "usb" -> USB_3;
            case "nvme" -> NVME;
            default -> SATA;
        };
    }
}
