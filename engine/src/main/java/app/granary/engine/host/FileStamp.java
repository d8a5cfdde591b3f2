package app.granary.engine.host;

import app.granary.core.disk.BlockSource;
import app.granary.core.filesystem.FilePiece;
import app.granary.engine.bag.Digests;
import app.granary.engine.bag.FrameIndex;
import app.granary.engine.codec.Chunks;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.security.MessageDigest;
import java.util.HexFormat;

/**
 * What tells that a file is the same in two images without reading it: where its pieces lie, and the checksums of the chunks that are its
 * own. Of chunks that it shares with others its part is read, as long as those are few; of more, their checksums have to do.
 */
final class FileStamp {
    private static final int MOST_READ = 64;

    private final BlockSource source;
    private final FrameIndex index;
    private final MessageDigest digest = Digests.sha256();
    private int read;
    private long last = -1;
    private long chunks;
    private long storedBytes;

    FileStamp(BlockSource source, FrameIndex index) {
        this.source = source;
        this.index = index;
    }

    void add(FilePiece piece) throws IOException {
        digest.update(numbers(piece.atBytes(), piece.lengthBytes()));
        long end = piece.atBytes() + piece.lengthBytes();
        for (long at = piece.atBytes(); at != FilePiece.ZEROS && at < end;) {
            long chunk = at / Chunks.BYTES;
            long next = Math.min(end, (chunk + 1) * Chunks.BYTES);
            int row = index.rowOf(chunk);
            if (next - at == Chunks.BYTES || ++read > MOST_READ) {
                digest.update(numbers(index.crc(row), index.storedBytes(row)));
            } else {
                byte[] mine = new byte[(int) (next - at)];
                source.read(at, ByteBuffer.wrap(mine));
                digest.update(mine);
            }
            if (chunk != last) {
                chunks++;
                storedBytes += index.storedBytes(row);
            }
            last = chunk;
            at = next;
        }
    }

    private static byte[] numbers(long one, long two) {
        return ByteBuffer.allocate(16).putLong(one).putLong(two).array();
    }

    /** How many it lies in. */
    long chunks() {
        return chunks;
    }

    /** Of those in the image. */
    long storedBytes() {
        return storedBytes;
    }

    /** In hexadecimal. Nothing is added any more. */
    String text() {
        return HexFormat.of().formatHex(digest.digest());
    }
}
