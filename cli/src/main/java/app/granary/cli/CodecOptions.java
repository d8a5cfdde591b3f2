package app.granary.cli;

import app.granary.engine.codec.Codec;
import java.io.IOException;
import picocli.CommandLine.Option;

/** How frames are to be compressed. */
final class CodecOptions {
    private static final String USUAL = "zstd";

    @Option(names = "--codec", paramLabel = "CODEC",
        description = "zstd, gzip, xz, stored (used blocks as they are) or none (the raw disk) (default: "
        + USUAL + ")")
    String codec;

    @Option(names = "--level", paramLabel = "N", description = "zstd 1 to 19 (usual: 3), gzip 1 to 9 (6), xz 0 to 9 (3)")
    Integer level;

    Codec codec() throws IOException {
        return Codec.parse(codec == null ? USUAL : codec);
    }

    /** Whether a person said anything of it. */
    boolean given() {
        return codec != null || level != null;
    }

    int level() throws IOException {
        return level == null ? codec().usualLevel() : codec().requireLevel(level);
    }
}
