package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.fault.FaultException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;

/**
 * The bytes of a file, from its first to its last; where they lie on damage, the fault says which of the file's own bytes those are.
 * Closing it closes nothing else.
 */
final class FileContent extends InputStream {
    private final BlockSource source;
    private final FileEntry file;
    private long done;
    private final Iterator<FilePiece> pieces;
    private FilePiece now = new FilePiece(FilePiece.ZEROS, 0);

    FileContent(BlockSource source, FileEntry file, List<FilePiece> pieces) {
        this.source = source;
        this.file = file;
        this.pieces = pieces.iterator();
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] into, int offset, int length) throws IOException {
        while (now.lengthBytes() == 0 && pieces.hasNext()) {
            now = pieces.next();
        }
        if (now.lengthBytes() == 0) {
            return length == 0 ? 0 : -1;
        }
        int count = (int) Math.min(length, now.lengthBytes());
        if (now.atBytes() == FilePiece.ZEROS) {
            Arrays.fill(into, offset, offset + count, (byte) 0);
        } else {
            try {
                source.read(now.atBytes(), ByteBuffer.wrap(into, offset, count));
            } catch (FaultException failed) {
                throw FileTree.onDamage(file, done, count, failed);
            }
        }
        done += count;
        now = new FilePiece(now.atBytes() == FilePiece.ZEROS ? FilePiece.ZEROS : now.atBytes() + count, now.lengthBytes() - count);
        return count;
    }
}
