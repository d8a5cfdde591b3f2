package app.granary.engine.remote;

import app.granary.core.fault.FaultException;
import app.granary.engine.progress.Rest;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.MappedByteBuffer;
import java.nio.channels.ClosedChannelException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.NonWritableChannelException;
import java.nio.channels.ReadableByteChannel;
import java.nio.channels.WritableByteChannel;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;

/**
 * One file of another machine. What is written is gathered, and one piece of it is on its way while the next is gathered: at most two
 * pieces are not acknowledged, and they are written there in order. What is read on and on comes in pieces, and the next one is fetched
 * while one is used. Several threads may read; one writes.
 */
final class RemoteChannel extends FileChannel {
    private static final int PIECE = 4 << 20;
    /** Where somebody looks in; more only once it is read on from there. */
    private static final int LOOK = 128 << 10;
    private static final ExecutorService CARRIERS = Executors.newCachedThreadPool(work -> {
        Thread thread = new Thread(work, "granary-remote");
        thread.setDaemon(true);
        return thread;
    });

    private final RemoteFileSystem system;
    private final RemoteFiles files;
    private volatile String path;
    private final boolean writing;
    private volatile boolean locked;
    private long position;
    private long size;
    private byte[] gathered = new byte[0];
    private int gatheredBytes;
    private long gatheredAt;
    private Future<?> onItsWay = CompletableFuture.completedFuture(null);
    private RemotePiece now = RemotePiece.NONE;
    private RemotePiece next = RemotePiece.NONE;

    RemoteChannel(RemoteFileSystem system, String path, long size, boolean writing) {
        this.system = system;
        this.files = system.files();
        this.path = path;
        this.size = size;
        this.writing = writing;
    }

    private void requireOpen() throws IOException {
        if (!isOpen()) {
            throw new ClosedChannelException();
        }
    }

    /** Each caller gets a failure of its own: one exception thrown by two closings cannot be told of in the other. */
    private static <T> T await(Future<T> what) throws IOException {
        try {
            return what.get();
        } catch (InterruptedException stopped) {
            throw Rest.interrupted();
        } catch (ExecutionException failed) {
            throw failed.getCause() instanceof FaultException known ? known.fault().asException()
                : new IOException(failed.getCause().getMessage(), failed.getCause());
        }
    }

    // --- reading ----------------------------------------------------------------------------------------------------------------------

    @Override
    public synchronized int read(ByteBuffer into) throws IOException {
        int count = read(into, position);
        position += Math.max(0, count);
        return count;
    }

    @Override
    public synchronized int read(ByteBuffer into, long at) throws IOException {
        requireOpen();
        settle();
        if (at >= size) {
            return -1;
        }
        if (!now.holds(at)) {
            now = next.holds(at) ? next : fetch(at, at == now.end() ? PIECE : LOOK);
            next = now.bytes() == PIECE && now.end() < size ? fetch(now.end(), PIECE) : RemotePiece.NONE;
        }
        byte[] piece = await(now.content());
        int from = (int) (at - now.at());
        int count = Math.min(into.remaining(), piece.length - from);
        if (count <= 0) {
            return -1;
        }
        into.put(piece, from, count);
        return count;
    }

    private RemotePiece fetch(long start, int most) {
        int bytes = (int) Math.min(most, size - start);
        return new RemotePiece(start, bytes, CARRIERS.submit(() -> files.read(path, start, bytes)));
    }

    @Override
    public long read(ByteBuffer[] into, int offset, int length) throws IOException {
        long sum = 0;
        for (int i = offset; i < offset + length; i++) {
            int count = read(into[i]);
            if (count < 0) {
                return sum == 0 ? -1 : sum;
            }
            sum += count;
        }
        return sum;
    }

    // --- writing ----------------------------------------------------------------------------------------------------------------------

    @Override
    public synchronized int write(ByteBuffer from) throws IOException {
        int count = write(from, position);
        position += count;
        return count;
    }

    @Override
    public synchronized int write(ByteBuffer from, long at) throws IOException {
        requireOpen();
        if (!writing) {
            throw new NonWritableChannelException();
        }
        int count = from.remaining();
        if (gatheredBytes > 0 && at != gatheredAt + gatheredBytes) {
            send();
        }
        while (from.hasRemaining()) {
            if (gathered.length == 0) {
                gathered = new byte[PIECE];
            }
            if (gatheredBytes == 0) {
                gatheredAt = at + count - from.remaining();
            }
            int piece = Math.min(from.remaining(), gathered.length - gatheredBytes);
            from.get(gathered, gatheredBytes, piece);
            gatheredBytes += piece;
            if (gatheredBytes == gathered.length) {
                send();
            }
        }
        size = Math.max(size, at + count);
        return count;
    }

    /** Hands over what was gathered, when what was handed over before it is written there. */
    private void send() throws IOException {
        if (gatheredBytes == 0) {
            return;
        }
        await(onItsWay);
        byte[] bytes = gatheredBytes == gathered.length ? gathered : java.util.Arrays.copyOf(gathered, gatheredBytes);
        long at = gatheredAt;
        now = RemotePiece.NONE;
        next = RemotePiece.NONE;
        gathered = new byte[0];
        gatheredBytes = 0;
        onItsWay = CARRIERS.submit(() -> {
            files.write(path, at, bytes);
            return null;
        });
    }

    /** Returns when all that was written is written there. */
    synchronized void settle() throws IOException {
        if (writing) {
            send();
            await(onItsWay);
        }
    }

    @Override
    public long write(ByteBuffer[] from, int offset, int length) throws IOException {
        long sum = 0;
        for (ByteBuffer each : java.util.Arrays.asList(from).subList(offset, offset + length)) {
            sum += write(each);
        }
        return sum;
    }

    @Override
    public synchronized FileChannel truncate(long bytes) throws IOException {
        requireOpen();
        settle();
        if (bytes < size) {
            files.truncate(path, bytes);
            size = bytes;
        }
        position = Math.min(position, bytes);
        return this;
    }

    @Override
    public synchronized void force(boolean metadata) throws IOException {
        requireOpen();
        settle();
        files.force(path);
    }

    @Override
    public long transferTo(long at, long count, WritableByteChannel to) throws IOException {
        ByteBuffer buffer = ByteBuffer.allocate((int) Math.min(count, PIECE));
        int got = read(buffer, at);
        return got <= 0 ? 0 : to.write(buffer.flip());
    }

    @Override
    public long transferFrom(ReadableByteChannel from, long at, long count) throws IOException {
        ByteBuffer buffer = ByteBuffer.allocate((int) Math.min(count, PIECE));
        return from.read(buffer) <= 0 ? 0 : write(buffer.flip(), at);
    }

    // --- the rest ---------------------------------------------------------------------------------------------------------------------

    @Override
    public synchronized long position() {
        return position;
    }

    @Override
    public synchronized FileChannel position(long to) {
        position = to;
        return this;
    }

    @Override
    public synchronized long size() throws IOException {
        requireOpen();
        return size;
    }

    @Override
    public MappedByteBuffer map(MapMode mode, long at, long bytes) {
        throw new UnsupportedOperationException("files of another machine are not mapped");
    }

    @Override
    public FileLock lock(long at, long bytes, boolean shared) throws IOException {
        FileLock out = tryLock(at, bytes, shared);
        if (out == null) {
            throw new IOException(path + " is locked by somebody else");
        }
        return out;
    }

    @Override
    public FileLock tryLock(long at, long bytes, boolean shared) throws IOException {
        requireOpen();
        locked = files.lock(path);
        return locked ? new RemoteLock(this) : null;
    }

    boolean under(String renamed) {
        return path.equals(renamed) || path.startsWith(renamed + "/");
    }

    /** The file has another name from now on, for whoever writes on. */
    void follow(String from, String to) {
        path = to + path.substring(from.length());
    }

    void unlock() throws IOException {
        locked = false;
        files.unlock(path);
    }

    /** What cannot be handed over any more is told: closed is not written. */
    @Override
    protected synchronized void implCloseChannel() throws IOException {
        try {
            settle();
        } finally {
            system.closed(this);
            if (locked) {
                unlock();
            }
        }
    }
}
