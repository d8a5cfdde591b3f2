package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import java.io.IOException;

/** Tells a blank disk from one with unknown content by its first mebibyte. */
final class Blank {
    private static final int LOOKED_AT = 1 << 20;

    private Blank() {
    }

    static boolean startsBlank(BlockSource source) throws IOException {
        Bytes head = Bytes.read(source, 0, (int) Math.min(LOOKED_AT, source.sizeBytes()));
        for (int i = 0; i < head.length(); i++) {
            if (head.u8(i) != 0) {
                return false;
            }
        }
        return true;
    }
}
