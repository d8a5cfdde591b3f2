package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import java.io.IOException;

/** Tells a blank disk from one with unknown content by its first mebibyte. */
public final class Blank {
    private static final int LOOKED_AT = 1 << 20;

    private Blank() {
    }

    /** Whether the first mebibyte is zeros. */
    public static boolean startsBlank(BlockSource source) throws IOException {
        return isBlank(Bytes.read(source, 0, (int) Math.min(LOOKED_AT, source.sizeBytes())));
    }

    static boolean isBlank(Bytes content) {
        for (int i = 0; i < content.length(); i++) {
            if (content.u8(i) != 0) {
                return false;
            }
        }
        return true;
    }
}
