package app.granary.server.database;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import org.h2.store.fs.FileBaseDefault;

/**
 * A file that grows in steps of zeros before it is written to. A write that is to be on the device and makes its file longer waits for the file system's own
 * journal too, which takes several times as long as the write (measured; docs/decisions/022). H2 finds the end of its data by what is in it, not by the file's
 * length.
 */
final class SteppedFile extends FileBaseDefault {
    static final int STEP_BYTES = 1 << 18;

    private final FileChannel file;
    private long length;

    /** @param file each write of which is on the device when it returns */
    SteppedFile(FileChannel file) throws IOException {
        this.file = file;
        this.length = file.size();
    }

    @Override
    public synchronized int write(ByteBuffer content, long at) throws IOException {
        long end = at + content.remaining();
        if (end > length && end - length <= STEP_BYTES) {
            grow();
        }
        int written = file.write(content, at);
        length = Math.max(length, at + written);
        return written;
    }

    private void grow() throws IOException {
        try {
            ByteBuffer zeros = ByteBuffer.allocate(STEP_BYTES);
            while (zeros.hasRemaining()) {
                length += file.write(zeros, length);
            }
        } catch (IOException full) {
            length = file.size(); // what is to be written may still have room
        }
    }

    @Override
    protected synchronized void implTruncate(long size) throws IOException {
        file.truncate(size);
        length = file.size();
    }

    @Override
    public int read(ByteBuffer content, long at) throws IOException {
        return file.read(content, at);
    }

    @Override
    public long size() throws IOException {
        return file.size();
    }

    @Override
    public void force(boolean metaData) throws IOException {
        file.force(metaData);
    }

    @Override
    public FileLock tryLock(long at, long size, boolean shared) throws IOException {
        return file.tryLock(at, size, shared);
    }

    @Override
    protected void implCloseChannel() throws IOException {
        file.close();
    }
}
