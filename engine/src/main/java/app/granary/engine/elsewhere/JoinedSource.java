package app.granary.engine.elsewhere;

import app.granary.core.disk.BlockSource;
import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;

/**
 * A disk that lies unpacked in one file or in several, read where it is. Opened anew for each read: it is only looked at here and there.
 */
record JoinedSource(Path folder, List<ElsewhereFile> files, int sectorBytes) implements BlockSource {
    @Override
    public String name() {
        return files.get(0).name();
    }

    @Override
    public long sizeBytes() {
        return files.stream().mapToLong(ElsewhereFile::bytes).sum();
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        long start = 0;
        for (ElsewhereFile file : files) {
            long within = offsetBytes - start;
            if (within >= 0 && within < file.bytes() && into.hasRemaining()) {
                ByteBuffer piece = into.slice(into.position(), (int) Math.min(into.remaining(), file.bytes() - within));
                fill(file, within, piece);
                into.position(into.position() + piece.limit());
                offsetBytes += piece.limit();
            }
            start += file.bytes();
        }
        if (into.hasRemaining()) {
            throw new EOFException(name() + " ends at byte " + sizeBytes());
        }
    }

    private void fill(ElsewhereFile file, long at, ByteBuffer piece) throws IOException {
        try (FileChannel channel = FileChannel.open(folder.resolve(file.name()), StandardOpenOption.READ, LinkOption.NOFOLLOW_LINKS)) {
            while (piece.hasRemaining()) {
                if (channel.read(piece, at + piece.position()) < 0) {
                    throw new EOFException(file.name() + " is shorter than it was a moment ago");
                }
            }
        }
    }
}
