package app.granary.standins;

import java.nio.charset.StandardCharsets;
import java.util.SplittableRandom;

/** Replaces marked sectors by content of their kind. The same mark at the same place always gives the same bytes. */
final class MadeUpContent {
    static final int SECTOR = 512;
    private static final byte[] MARK = "GRNFILL ".getBytes(StandardCharsets.US_ASCII);
    private static final String[] WORDS = {"station", "bearing", "traverse", "level", "benchmark", "easting", "northing", "chain", "offset",
        "boundary", "tarn",
        "meridian", "theodolite", "prism", "closure", "misclosure", "datum", "height", "staff", "reading", "backsight", "foresight", "peg",
        "stone", "wall",
        "corner", "deed", "plan", "sheet", "scale", "grid", "angle", "distance", "slope", "corrected", "observed", "adjusted", "metres",
        "degrees", "minutes"};

    private MadeUpContent() {
    }

    /** Fills every marked sector among the first {@code length} bytes; {@code place} is their offset on the disk. */
    static void fill(byte[] content, int length, long place) {
        for (int at = 0; at + SECTOR <= length; at += SECTOR) {
            if (content[at] == MARK[0] && marked(content, at)) {
                char kind = (char) content[at + MARK.length];
                long number = Long.parseLong(new String(content, at + MARK.length + 1, 8, StandardCharsets.US_ASCII));
                sector(content, at, kind, new SplittableRandom(number * 1_000_003 + (place + at) / SECTOR));
            }
        }
    }

    private static boolean marked(byte[] content, int at) {
        for (int i = 0; i < MARK.length; i++) {
            if (content[at + i] != MARK[i]) {
                return false;
            }
        }
        return true;
    }

    private static void sector(byte[] into, int at, char kind, SplittableRandom random) {
        switch (kind) {
            case 't' -> text(into, at, random);
            case 'b' -> program(into, at, random);
            default -> {
                for (int i = 0; i < SECTOR; i += 8) {
                    put(into, at + i, random.nextLong());
                }
            }
        }
    }

    private static void text(byte[] into, int at, SplittableRandom random) {
        int i = 0;
        while (i < SECTOR) {
            String word = random.nextInt(6) == 0 ? String.valueOf(random.nextInt(100_000)) : WORDS[random.nextInt(WORDS.length)];
            for (int c = 0; c < word.length() && i < SECTOR; c++) {
                into[at + i++] = (byte) word.charAt(c);
            }
            if (i < SECTOR) {
                into[at + i++] = (byte) (random.nextInt(12) == 0 ? '\n' : ' ');
            }
        }
    }

    /** Records of eight bytes, half of them the same from record to record, as machine code and database pages are. */
    private static void program(byte[] into, int at, SplittableRandom random) {
        long usual = 0x00_00_00_E8_00_05_8B_48L;
        for (int i = 0; i < SECTOR; i += 8) {
            // each bit of the choice spread over a byte: where it is set the byte is a usual one
            long choice = (random.nextLong() & 0x0101010101010101L) * 0xFF;
            put(into, at + i, usual & choice | random.nextLong() & ~choice);
        }
    }

    private static void put(byte[] into, int at, long value) {
        for (int i = 0; i < 8; i++) {
            into[at + i] = (byte) (value >>> 8 * i);
        }
    }
}
