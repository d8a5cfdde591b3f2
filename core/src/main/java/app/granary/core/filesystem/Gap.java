package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import java.io.IOException;

/**
 * A stretch of a disk that no partition and no table takes.
 *
 * @param holds what its beginning shows: {@code "nothing"} (zeros), {@code "data"}, or the kind of a file system that a lost partition may
 *              have left there
 */
public record Gap(long startBytes, long sizeBytes, String holds) {
    private static final int LOOKED_AT = 1 << 20;

    static Gap look(BlockSource source, long start, long end) throws IOException {
        FileSystem found = FileSystems.probe(source, start, end - start);
        if (!found.kind().equals(FileSystems.UNKNOWN)) {
            return new Gap(start, end - start, found.kind());
        }
        Bytes head = Bytes.read(source, start, (int) Math.min(LOOKED_AT, end - start));
        return new Gap(start, end - start, Blank.isBlank(head) ? "nothing" : "data");
    }
}
