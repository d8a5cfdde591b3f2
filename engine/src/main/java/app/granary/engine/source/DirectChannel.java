package app.granary.engine.source;

import com.sun.nio.file.ExtendedOpenOption;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;

/**
 * A file or device past the page cache: whole blocks only, straight between the device and a buffer that lies at whole blocks of memory. By
 * several threads at once.
 */
final class DirectChannel implements Closeable {
    /** A shorter piece is not worth a wait of its own: a disk that turns would miss its place each time. */
    static final int WORTH_BYTES = 256 << 10;
    static final int BUFFER_BYTES = 1 << 20;
    private static final int MOST_BLOCK_BYTES = 64 << 10;

    private final FileChannel channel;
    private final int blockBytes;
    /** As many as there are threads that read; the JDK makes none of this size that it can let go of again. */
    private final Queue<ByteBuffer> buffers = new ConcurrentLinkedQueue<>();

    private DirectChannel(FileChannel channel, int blockBytes) {
        this.channel = channel;
        this.blockBytes = blockBytes;
    }

    /**
     * One block is read, since some file systems open a file so and then do not serve it; a failure that comes later is then the device's
     * own.
     *
     * @return empty where there is no way past the cache, as in memory and over some networks
     */
    static Optional<DirectChannel> open(Path path, OpenOption... also) throws IOException {
        long blockBytes = Files.getFileStore(path).getBlockSize();
        if (blockBytes < 512 || blockBytes > MOST_BLOCK_BYTES) {
            return Optional.empty();
        }
        OpenOption[] options = java.util.stream.Stream
            .concat(java.util.stream.Stream.of(also), java.util.stream.Stream.of(StandardOpenOption.READ, ExtendedOpenOption.DIRECT))
            .toArray(OpenOption[]::new);
        FileChannel channel;
        try {
            channel = FileChannel.open(path, options);
        } catch (IOException | UnsupportedOperationException notHere) {
            return Optional.empty();
        }
        try {
            channel.read(aligned((int) blockBytes, (int) blockBytes), 0);
            return Optional.of(new DirectChannel(channel, (int) blockBytes));
        } catch (IOException notServed) {
            channel.close();
            return Optional.empty();
        }
    }

    private static ByteBuffer aligned(int bytes, int blockBytes) {
        return ByteBuffer.allocateDirect(bytes + blockBytes).alignedSlice(blockBytes).slice(0, bytes);
    }

    /** A buffer this can read into and write from, of 1 MiB. */
    ByteBuffer buffer() {
        return aligned(BUFFER_BYTES, blockBytes);
    }

    /** How many bytes behind an offset the next whole block begins: 0 at its start. */
    int toWholeBlock(long offsetBytes) {
        return (int) Math.floorMod(-offsetBytes, (long) blockBytes);
    }

    /** The whole blocks of so many bytes. */
    int wholeBytes(int bytes) {
        return bytes - Math.floorMod(bytes, blockBytes);
    }

    /**
     * @param content whole blocks in a buffer of this
     * @return bytes written, from the content's position on; less than there are when the system did not take all at once
     */
    int write(long offsetBytes, ByteBuffer content) throws IOException {
        return channel.write(content, offsetBytes);
    }

    /** @return bytes read, whole blocks of them at most; -1 at the end */
    int read(long offsetBytes, ByteBuffer into) throws IOException {
        ByteBuffer free = buffers.poll();
        ByteBuffer buffer = free == null ? buffer() : free.clear();
        int done = channel.read(buffer.limit(Math.min(buffer.capacity(), wholeBytes(into.remaining()))), offsetBytes);
        into.put(buffer.flip());
        buffers.add(buffer);
        return done;
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }
}
