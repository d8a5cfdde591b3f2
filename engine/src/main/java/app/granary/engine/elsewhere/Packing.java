package app.granary.engine.elsewhere;

import java.io.IOException;
import java.io.InputStream;
import java.util.Locale;
import org.apache.commons.compress.compressors.bzip2.BZip2CompressorInputStream;
import org.apache.commons.compress.compressors.gzip.GzipCompressorInputStream;
import com.github.luben.zstd.ZstdInputStream;
import org.tukaani.xz.XZInputStream;

/** What an image file is packed with, told by its first bytes, never by its name. */
public enum Packing {
    /** Not packed: the disk's own bytes. */
    NONE("none", "", new int[0]),
    /** RFC 1952, section 2.3.1: 1F 8B, deflate. */
    GZIP("gzip", ".gz", new int[] {0x1F, 0x8B, 8}),
    /** RFC 8878, section 3.1.1: magic number FD2FB528, little-endian. */
    ZSTD("zstd", ".zst", new int[] {0x28, 0xB5, 0x2F, 0xFD}),
    /** The .xz file format 1.2, section 2.1.1.1. */
    XZ("xz", ".xz", new int[] {0xFD, '7', 'z', 'X', 'Z', 0}),
    /** "BZh", a level, and the mark of a block, which is pi in decimal digits (common practice, no source). */
    BZIP2("bzip2", ".bz2", new int[] {'B', 'Z', 'h', -1, 0x31, 0x41, 0x59, 0x26, 0x53, 0x59});

    /** From the first of them it is told what a file is packed with, and whether that vouches for it. */
    static final int HEAD_BYTES = 16;
    /**
     * What a file's head claims is taken from the heap, so no more than any usual setting needs: xz's highest has a dictionary of 64 MiB
     * (xz(1), "-9").
     */
    private static final int XZ_MEMORY_KIB = 66 * 1024;
    /** 128 MiB, which zstd itself does not go beyond unless it is told to (zstd(1), "--long"). */
    private static final int ZSTD_WINDOW_LOG = 27;

    private final String word;
    private final String ending;
    private final int[] magic;

    Packing(String word, String ending, int[] magic) {
        this.word = word;
        this.ending = ending;
        this.magic = magic;
    }

    /** On the wire and on the screen. */
    public String word() {
        return word;
    }

    /** What such files' names usually end in; an empty string for none. */
    String ending() {
        return ending;
    }

    static Packing of(byte[] head) {
        for (Packing each : values()) {
            if (each != NONE && each.matches(head)) {
                return each;
            }
        }
        return NONE;
    }

    private boolean matches(byte[] head) {
        for (int i = 0; i < magic.length; i++) {
            if (i >= head.length || magic[i] >= 0 && (head[i] & 0xFF) != magic[i]) {
                return false;
            }
        }
        return true;
    }

    /**
     * Whether the format itself carries checksums of what it holds: gzip and bzip2 always, zstd and xz unless they were told not to (RFC
     * 8878, section 3.1.1.1.1, bit 2; .xz format, section 2.1.1.2).
     */
    boolean vouches(byte[] head) {
        return switch (this) {
            case NONE -> false;
            case GZIP, BZIP2 -> true;
            case ZSTD -> head.length > 4 && (head[4] & 4) != 0;
            case XZ -> head.length > 7 && (head[7] & 0xF) != 0;
        };
    }

    /** The unpacked stream; members or frames that follow one another are read as one. */
    InputStream open(InputStream in) throws IOException {
        return switch (this) {
            case NONE -> in;
            case GZIP -> new GzipCompressorInputStream(in, true);
            case ZSTD -> new ZstdInputStream(in).setLongMax(ZSTD_WINDOW_LOG);
            case XZ -> new XZInputStream(in, XZ_MEMORY_KIB);
            case BZIP2 -> new BZip2CompressorInputStream(in, true);
        };
    }

    /** A file's name without what its packing adds to it. */
    String unpackedName(String name) {
        boolean ends = !ending.isEmpty() && name.toLowerCase(Locale.ROOT).endsWith(ending);
        return ends ? name.substring(0, name.length() - ending.length()) : name;
    }
}
