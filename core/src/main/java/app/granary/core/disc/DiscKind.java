package app.granary.core.disc;

import java.util.Arrays;
import java.util.Optional;

/** Blank discs and how much each takes: sectors of 2048 bytes (ECMA-349 for DVD+R, ECMA-359 for DVD-R, BD-R of one layer; from memory). */
public enum DiscKind {
    DVD_PLUS_R("DVD+R", 2_295_104), DVD_MINUS_R("DVD-R", 2_298_496), BD_R("BD-R", 12_219_392);

    /** Of every one of them. */
    public static final int SECTOR = 2048;

    private final String word;
    private final long sectors;

    DiscKind(String word, long sectors) {
        this.word = word;
        this.sectors = sectors;
    }

    /** As it is printed on the disc. */
    public String word() {
        return word;
    }

    public long bytes() {
        return sectors * SECTOR;
    }

    /** @param word in either case */
    public static Optional<DiscKind> parse(String word) {
        return Arrays.stream(values()).filter(each -> each.word.equalsIgnoreCase(word)).findFirst();
    }
}
