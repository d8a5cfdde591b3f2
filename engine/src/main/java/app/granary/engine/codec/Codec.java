package app.granary.engine.codec;

import app.granary.core.fault.Fault;
import java.io.IOException;
import java.util.Arrays;
import java.util.Locale;

/** How chunks are compressed. Any number of frames one after the other is again a stream that the standard tool decodes. */
public enum Codec {
    /** Every byte kept as it is; the parts together are the raw disk. */
    NONE("", 0, 0, 0),
    /** Not compressed, and without what is not in use: zstd frames of stored blocks, and of one repeated byte for zeros. */
    STORED(".zst", 0, 0, 0),
    GZIP(".gz", 1, 6, 9),
    ZSTD(".zst", 1, 3, 19),
    XZ(".xz", 0, 3, 9);

    private final String suffix;
    private final int lowest;
    private final int usual;
    private final int highest;

    Codec(String suffix, int lowest, int usual, int highest) {
        this.suffix = suffix;
        this.lowest = lowest;
        this.usual = usual;
        this.highest = highest;
    }

    /** The word on the command line and on the wire. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** @throws app.granary.core.fault.FaultException when there is no such codec */
    public static Codec parse(String word) throws IOException {
        for (Codec codec : values()) {
            if (codec.word().equals(word)) {
                return codec;
            }
        }
        throw Fault.of(Fault.Kind.BAD_CHOICE, "", "There is no codec \"" + word + "\". Choose one of "
            + String.join(", ", Arrays.stream(values()).map(Codec::word).toList()) + ".").asException();
    }

    /** File name ending of a part before its number: {@code ".zst"}, or empty. */
    public String suffix() {
        return suffix;
    }

    public int usualLevel() {
        return usual;
    }

    /** @throws app.granary.core.fault.FaultException when the codec has no such level */
    public int requireLevel(int level) throws IOException {
        if (level < lowest || level > highest) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, "",
                "The codec " + word() + " has no level " + level + ". Choose " + lowest + " to " + highest + ".").asException();
        }
        return level;
    }

    /** Longest frame a chunk of {@code length} bytes can become; frames longer than this are refused before anything is allocated. */
    public int maxFrameBytes(int length) {
        return this == NONE ? length : length + length / 128 + 1024;
    }

    /** A coder for one thread. */
    public FrameCoder coder(int level) {
        return switch (this) {
            case NONE -> new NoneCoder();
            case STORED -> new StoredCoder();
            case GZIP -> new GzipCoder(level);
            case ZSTD -> new ZstdCoder(level);
            case XZ -> new XzCoder(level);
        };
    }
}
