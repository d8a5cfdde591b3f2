package app.granary.engine.source;

import app.granary.core.fault.Fault;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/** A block device that is overwritten. The caller has made sure it is the right one, by its serial. */
public final class DeviceTarget implements BlockTarget {
    private final Path path;
    private final FileChannel channel;
    private final long sizeBytes;
    private final EarlyFlush early;

    private DeviceTarget(Path path, FileChannel channel) throws IOException {
        this.path = path;
        this.channel = channel;
        this.sizeBytes = channel.size();
        this.early = new EarlyFlush(channel);
    }

    /** @param neededBytes what will be written; a smaller device is refused before anything is */
    public static DeviceTarget open(Path path, long neededBytes) throws IOException {
        DeviceTarget target = new DeviceTarget(path, FileChannel.open(path, StandardOpenOption.WRITE));
        if (target.sizeBytes < neededBytes) {
            target.close();
            throw Fault.of(Fault.Kind.NO_ROOM, path.toString(), path + " is " + (neededBytes - target.sizeBytes)
                + " bytes too small for this image; nothing was written. Use a disk of at least " + neededBytes + " bytes.").asException();
        }
        return target;
    }

    @Override
    public String name() {
        return path.toString();
    }

    @Override
    public long sizeBytes() {
        return sizeBytes;
    }

    @Override
    public boolean startsAsZeros() {
        return false;
    }

    @Override
    public void write(long offsetBytes, ByteBuffer content) throws IOException {
        int bytes = content.remaining();
        Channels.writeFully(channel, offsetBytes, content);
        early.wrote(bytes);
    }

    @Override
    public void flush() throws IOException {
        channel.force(false);
    }

    @Override
    public void finish() throws IOException {
        channel.force(true);
    }

    @Override
    public void close() throws IOException {
        early.close();
        channel.close();
    }
}
