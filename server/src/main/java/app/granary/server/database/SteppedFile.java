package app.granary.server.database;

import java.io.EOFException;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.channels.FileLock;
import java.nio.file.Path;
import org.h2.store.fs.FileBaseDefault;

/**
 * A file each write of which is on the device when it returns. It grows in steps of zeros before it is written to: such a write that makes
 * its file longer waits for the file system's own journal too, which takes several times as long (measured; docs/decisions/022). H2 finds
 * the end of its data by what is in it, not by the file's length. A thread that is interrupted does not close it for all others, as it
 * would a channel.
 */
final class SteppedFile extends FileBaseDefault {
    static final int STEP_BYTES = 1 << 18;

    private final RandomAccessFile file;
    private long length;

    /** @param file made where it is missing */
    SteppedFile(Path file) throws IOException {
        this.file = new RandomAccessFile(file.toFile(), "rwd");
        this.length = this.file.length();
    }

    @Override
    public synchronized int write(ByteBuffer content, long at) throws IOException {
        int count = content.remaining();
        if (at + count > length && at + count - length <= STEP_BYTES) {
            grow();
        }
        byte[] bytes = content.hasArray() ? content.array() : new byte[count];
        int from = content.hasArray() ? content.arrayOffset() + content.position() : 0;
        if (!content.hasArray()) {
            content.duplicate().get(bytes);
        }
        file.seek(at);
        file.write(bytes, from, count);
        content.position(content.limit());
        length = Math.max(length, at + count);
        return count;
    }

    private void grow() throws IOException {
        try {
            file.seek(length);
            file.write(new byte[STEP_BYTES]);
        } catch (IOException full) {
            // what is to be written may still have room
        }
        length = file.length();
    }

    @Override
    public synchronized int read(ByteBuffer content, long at) throws IOException {
        int count = content.remaining();
        if (count > 0 && at >= length) {
            return -1;
        }
        byte[] bytes = content.hasArray() ? content.array() : new byte[count];
        int from = content.hasArray() ? content.arrayOffset() + content.position() : 0;
        file.seek(at);
        int read = file.read(bytes, from, count);
        if (read < 0 && count > 0) {
            throw new EOFException("the database's file became shorter while it was in use");
        }
        if (content.hasArray()) {
            content.position(content.position() + Math.max(0, read));
        } else {
            content.put(bytes, 0, Math.max(0, read));
        }
        return read;
    }

    @Override
    protected synchronized void implTruncate(long size) throws IOException {
        if (size < length) {
            file.setLength(size);
            length = size;
        }
    }

    @Override
    public synchronized long size() {
        return length;
    }

    @Override
    public void force(boolean metaData) throws IOException {
        file.getFD().sync();
    }

    @Override
    public FileLock tryLock(long at, long size, boolean shared) throws IOException {
        return file.getChannel().tryLock(at, size, shared);
    }

    @Override
    protected void implCloseChannel() throws IOException {
        file.close();
    }
}
