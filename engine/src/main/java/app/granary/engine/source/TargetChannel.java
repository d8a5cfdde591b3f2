package app.granary.engine.source;

import app.granary.engine.progress.Rest;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;

/**
 * The way to a target's bytes: one thread writes them, in the order given, while the next are being made. Long pieces go past the page
 * cache, where the file system allows it: measured, both together take a third off a restore that is not read back, and little is left to
 * be flushed at its end. Short pieces, and ends that are no whole block, go through the cache, which gathers them; it is flushed early.
 * What several threads give at once must not overlap.
 */
final class TargetChannel implements Closeable {
    private static final long FLUSHED_EVERY_BYTES = 16L << 20;
    /** Pieces on their way: enough that neither the device nor who makes them has to wait for a single slow one. */
    private static final int ON_THEIR_WAY = 8;

    private final FileChannel cached;
    private final Optional<DirectChannel> direct;
    private final WriteBehind behind;
    private final BlockingQueue<ByteBuffer> buffers = new LinkedBlockingQueue<>();
    private long unflushedBytes;

    private TargetChannel(FileChannel cached, Optional<DirectChannel> direct, String name) {
        this.cached = cached;
        this.direct = direct;
        this.behind = new WriteBehind(name);
        for (int i = 0; i < ON_THEIR_WAY; i++) {
            buffers.add(direct.map(DirectChannel::buffer).orElseGet(() -> ByteBuffer.allocateDirect(DirectChannel.BUFFER_BYTES)));
        }
    }

    /** @param cached open for writing on that path; closed with this */
    static TargetChannel over(FileChannel cached, Path path) throws IOException {
        return new TargetChannel(cached, DirectChannel.open(path, StandardOpenOption.WRITE), path.toString());
    }

    /** Takes the content before it returns; a failure may be told by a later call. */
    void write(long offsetBytes, ByteBuffer content) throws IOException {
        int before = direct.isEmpty() ? 0 : direct.get().toWholeBlock(offsetBytes);
        int whole = direct.isEmpty() ? 0 : direct.get().wholeBytes(content.remaining() - before);
        if (whole < DirectChannel.WORTH_BYTES) {
            give(offsetBytes, content, content.remaining(), false);
            return;
        }
        give(offsetBytes, content, before, false);
        give(offsetBytes + before, content, whole, true);
        give(offsetBytes + before + whole, content, content.remaining(), false);
    }

    private void give(long offsetBytes, ByteBuffer content, int bytes, boolean pastCache) throws IOException {
        for (int given = 0; given < bytes;) {
            ByteBuffer buffer = free();
            int count = Math.min(buffer.capacity(), bytes - given);
            long at = offsetBytes + given;
            buffer.clear().put(content.slice(content.position(), count)).flip();
            content.position(content.position() + count);
            try {
                behind.later(OptionalLong.of(at), () -> put(at, buffer, pastCache), () -> buffers.add(buffer));
            } catch (IOException failedBefore) {
                buffers.add(buffer);
                throw failedBefore;
            }
            given += count;
        }
    }

    private ByteBuffer free() throws IOException {
        try {
            return buffers.take();
        } catch (InterruptedException stopped) {
            throw Rest.interrupted();
        }
    }

    /** What the system does not take at once past the cache may go on within a block, and goes through it. */
    private void put(long offsetBytes, ByteBuffer content, boolean pastCache) throws IOException {
        long at = offsetBytes + (pastCache ? direct.orElseThrow().write(offsetBytes, content) : 0);
        while (content.hasRemaining()) {
            int count = cached.write(content, at);
            at += count;
            unflushedBytes += count;
        }
        if (unflushedBytes >= FLUSHED_EVERY_BYTES) {
            unflushedBytes = 0;
            cached.force(false);
        }
    }

    /** Waits until all that was written is on the device. */
    void flush() throws IOException {
        behind.now(() -> cached.force(false));
    }

    /** The same, a file's length included. */
    void finish() throws IOException {
        behind.now(() -> cached.force(true));
    }

    @Override
    public void close() throws IOException {
        behind.close();
        try (FileChannel first = cached) {
            if (direct.isPresent()) {
                direct.get().close();
            }
        }
    }
}
