package app.granary.cli;

import app.granary.engine.codec.Codec;
import java.io.IOException;
import picocli.CommandLine.Option;

/** How frames are to be compressed. */
final class CodecOptions {
    @Option(names = "--codec", paramLabel = "CODEC", defaultValue = "zstd",
        description = "zstd, gzip, xz or none (default: ${DEFAULT-VALUE})")
    String codec;

    @Option(names = "--level", paramLabel = "N", description = "zstd 1 to 19 (usual: 3), gzip 1 to 9 (6), xz 0 to 9 (3)")
    Integer level;

    Codec codec() throws IOException {
        return Codec.parse(codec);
    }

    int level() throws IOException {
        return level == null ? codec().usualLevel() : codec().requireLevel(level);
    }
}
