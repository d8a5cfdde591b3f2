package app.granary.engine.bag;

import app.granary.engine.openpgp.OpenPgp;
import app.granary.engine.openpgp.Passphrase;
import java.io.BufferedInputStream;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;

/**
 * The stream of frames by offset, over the parts it lies in. Parts that are not encrypted are read where they are; an encrypted one can
 * only be read from its start, so going back in it costs reading it again. One thread at a time.
 */
final class StoredBytes implements Closeable {
    private final Path data;
    private final List<ImageDescription.Part> parts;
    private final Passphrase passphrase;
    private int part = -1;
    private FileChannel channel;
    private InputStream clear;
    private long clearAt;

    /** @param passphrase none when the parts are not encrypted */
    StoredBytes(Path data, List<ImageDescription.Part> parts, Passphrase passphrase) {
        this.data = data;
        this.parts = parts;
        this.passphrase = passphrase;
    }

    /** @return whether all of it was there */
    boolean read(long offset, byte[] into, int length) throws IOException {
        long start = 0;
        int done = 0;
        for (int i = 0; i < parts.size() && done < length; i++) {
            long end = start + parts.get(i).bytes();
            if (offset + done < end && parts.get(i).bytes() > 0) {
                int piece = (int) Math.min(length - done, end - offset - done);
                if (!piece(i, offset + done - start, into, done, piece)) {
                    return false;
                }
                done += piece;
            }
            start = end;
        }
        return done == length;
    }

    private boolean piece(int number, long at, byte[] into, int from, int length) throws IOException {
        Path file = data.resolve(parts.get(number).name());
        if (!Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
            return false;
        }
        if (!passphrase.isNone()) {
            return clearPiece(number, file, at, into, from, length);
        }
        if (part != number) {
            close();
            channel = FileChannel.open(file, StandardOpenOption.READ);
            part = number;
        }
        ByteBuffer buffer = ByteBuffer.wrap(into, from, length);
        while (buffer.hasRemaining()) {
            if (channel.read(buffer, at + buffer.position() - from) < 0) {
                return false;
            }
        }
        return true;
    }

    private boolean clearPiece(int number, Path file, long at, byte[] into, int from, int length) throws IOException {
        if (part != number || at < clearAt) {
            close();
            clear = OpenPgp.decrypting(new BufferedInputStream(Files.newInputStream(file), 1 << 16), passphrase,
                "data/" + parts.get(number).name());
            clearAt = 0;
            part = number;
        }
        clear.skipNBytes(at - clearAt);
        int count = clear.readNBytes(into, from, length);
        clearAt = at + count;
        return count == length;
    }

    @Override
    public void close() throws IOException {
        part = -1;
        if (channel != null) {
            channel.close();
        }
        if (clear != null) {
            clear.close();
        }
    }
}
