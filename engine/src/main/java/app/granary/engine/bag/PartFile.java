package app.granary.engine.bag;

import app.granary.engine.openpgp.OpenPgp;
import app.granary.engine.openpgp.Passphrase;
import java.io.Closeable;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;

/** One part being written: encrypted if there is a passphrase, gathered in a buffer, digested if asked to. */
final class PartFile implements Closeable {
    private static final int BUFFER = 2 << 20;

    private static final int SHORTEST_HOLE = 64 << 10;
    private static final ByteBuffer ZEROS = ByteBuffer.allocateDirect(BUFFER).asReadOnlyBuffer();
    private final FileChannel channel;
    private final ByteBuffer out;
    private final MessageDigest digest;
    private final boolean digesting;
    private final OutputStream message;
    private long storedBytes;

    private PartFile(FileChannel channel, ByteBuffer out, Passphrase passphrase, boolean digesting) throws IOException {
        this.channel = channel;
        this.out = out;
        this.digesting = digesting;
        this.digest = Digests.sha256();
        this.storedBytes = channel.position();
        OutputStream stored = new OutputStream() {
            @Override
            public void write(int one) throws IOException {
                store(new byte[] {(byte) one}, 0, 1);
            }

            @Override
            public void write(byte[] from, int at, int length) throws IOException {
                store(from, at, length);
            }
        };
        this.message = passphrase.isNone() ? stored : OpenPgp.encrypting(stored, passphrase);
    }

    /** A direct buffer is costly to make and is handed from part to part. */
    static ByteBuffer buffer() {
        return ByteBuffer.allocateDirect(BUFFER);
    }

    static PartFile create(Path file, ByteBuffer buffer, Passphrase passphrase, boolean digesting) throws IOException {
        return new PartFile(FileChannel.open(file, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE), buffer.clear(), passphrase,
            digesting);
    }

    /** Carries on behind the first {@code bytes} of a part that is not encrypted; what lay behind them goes. */
    static PartFile append(Path file, ByteBuffer buffer, long bytes) throws IOException {
        FileChannel channel = FileChannel.open(file, StandardOpenOption.WRITE);
        channel.truncate(bytes).position(bytes);
        return new PartFile(channel, buffer.clear(), Passphrase.NONE, false);
    }

    FileChannel channel() {
        return channel;
    }

    void write(byte[] from, int at, int length) throws IOException {
        message.write(from, at, length);
    }

    private void store(byte[] from, int at, int length) throws IOException {
        if (digesting) {
            Digests.update(digest, from, at, length);
        }
        int done = 0;
        while (done < length) {
            if (!out.hasRemaining()) {
                drain();
            }
            int piece = Math.min(length - done, out.remaining());
            out.put(from, at + done, piece);
            done += piece;
        }
        storedBytes += length;
    }

    /** Hands the buffer to the operating system; where all of it is zeros, as a hole, as long as the file system has holes. */
    void drain() throws IOException {
        out.flip();
        int count = out.remaining();
        if (count >= SHORTEST_HOLE && out.mismatch(ZEROS.duplicate().limit(count)) < 0) {
            out.position(count - 1); // its last byte makes the file as long as it must be
            channel.position(channel.position() + count - 1);
        }
        while (out.hasRemaining()) {
            channel.write(out);
        }
        out.clear();
    }

    /** Length of the file once the buffer is drained. */
    long storedBytes() {
        return storedBytes;
    }

    /** Ends an encrypted part's message and hands everything to the operating system. */
    void end() throws IOException {
        message.close();
        drain();
    }

    /** In hexadecimal, of all that was stored; only of a part that was digested from its start. */
    String digest() {
        return Digests.hex(digest.digest());
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }
}
