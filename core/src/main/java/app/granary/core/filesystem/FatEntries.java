package app.granary.core.filesystem;

import app.granary.core.disk.Bytes;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;

/**
 * The entries of a FAT directory, piece by piece. Entry of 32 bytes: name 0 (11 bytes), attributes 11, first cluster 20 (high) and 26; an
 * entry of attributes 0x0F before it holds 13 characters of its long name at 1, 14 and 28, the last piece first (FAT specification 1.03,
 * "FAT Directory Structure", "Long File Names").
 */
final class FatEntries {
    private static final int ENTRY = 32;
    private static final int LONG_NAME = 0x0F;
    private static final int LABEL = 0x08;
    private static final int DELETED = 0xE5;
    /** Which half of a short name is in small letters: kept for the system by the specification, and used so by all that write it. */
    private static final int CASE_AT = 12;
    private static final int SMALL_NAME = 0x08;
    private static final int SMALL_ENDING = 0x10;

    private final boolean wide;
    private final Taker taker;
    private String longName = "";

    /** Takes one that stands for a file or folder, and neither for the folder itself nor the one above. */
    interface Taker {
        void take(String name, Bytes directory, int at, long cluster) throws IOException;
    }

    /** @param wide whether it is FAT32, whose clusters have 32 bits */
    FatEntries(boolean wide, Taker taker) {
        this.wide = wide;
        this.taker = taker;
    }

    /** @return whether the directory goes on */
    boolean read(Bytes directory) throws IOException {
        for (int at = 0; at + ENTRY <= directory.length(); at += ENTRY) {
            int first = directory.u8(at);
            int attributes = directory.u8(at + 11);
            if (first == 0) {
                return false;
            }
            if (first == DELETED) {
                longName = "";
            } else if ((attributes & LONG_NAME) == LONG_NAME) {
                longName = longPiece(directory, at) + ((first & 0x40) != 0 ? "" : longName);
            } else {
                String name = longName.isEmpty() ? shortName(directory, at) : longName;
                longName = "";
                if ((attributes & LABEL) == 0 && first != '.') {
                    taker.take(name, directory, at, (wide ? (long) directory.u16(at + 20) << 16 : 0) | directory.u16(at + 26));
                }
            }
        }
        return true;
    }

    private static String longPiece(Bytes directory, int at) {
        StringBuilder text = new StringBuilder();
        for (int[] piece : new int[][] {{1, 10}, {14, 12}, {28, 4}}) {
            text.append(new String(directory.slice(at + piece[0], piece[1]), StandardCharsets.UTF_16LE));
        }
        int end = text.indexOf("\0");
        return end < 0 ? text.toString() : text.substring(0, end);
    }

    private static String shortName(Bytes directory, int at) {
        String text = new String(directory.slice(at, 11), StandardCharsets.ISO_8859_1);
        int small = directory.u8(at + CASE_AT);
        String name = cased(text.substring(0, 8).strip(), (small & SMALL_NAME) != 0);
        String ending = cased(text.substring(8).strip(), (small & SMALL_ENDING) != 0);
        return name + (ending.isEmpty() ? "" : "." + ending);
    }

    private static String cased(String text, boolean small) {
        return small ? text.toLowerCase(Locale.ROOT) : text;
    }
}
