package app.granary.core.measure;

/** The two ways a size can be read; a sum never mixes them. */
public enum Reading {
    /** Powers of 1000, as on a drive's label. */
    DECIMAL(1000, new String[] {"B", "kB", "MB", "GB", "TB", "PB", "EB"}),
    /** Powers of 1024, as many systems show. */
    BINARY(1024, new String[] {"B", "KiB", "MiB", "GiB", "TiB", "PiB", "EiB"});

    private final int base;
    private final String[] units;

    Reading(int base, String[] units) {
        this.base = base;
        this.units = units;
    }

    int base() {
        return base;
    }

    String unit(int power) {
        return units[power];
    }

    int largestPower() {
        return units.length - 1;
    }
}
