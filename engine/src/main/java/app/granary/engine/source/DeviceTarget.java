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
    private final TargetChannel channel;
    private final long sizeBytes;

    private DeviceTarget(Path path, TargetChannel channel, long sizeBytes) {
        this.path = path;
        this.channel = channel;
        this.sizeBytes = sizeBytes;
    }

    /** @param neededBytes what will be written; a smaller device is refused before anything is */
    public static DeviceTarget open(Path path, long neededBytes) throws IOException {
        FileChannel channel = FileChannel.open(path, StandardOpenOption.WRITE);
        long sizeBytes = channel.size(); // the JDK asks a block device for its own length
        if (sizeBytes < neededBytes) {
            channel.close();
            throw Fault.of(Fault.Kind.NO_ROOM, path.toString(), path + " is " + (neededBytes - sizeBytes)
                + " bytes too small for this image; nothing was written. Use a disk of at least " + neededBytes + " bytes.").asException();
        }
        return new DeviceTarget(path, TargetChannel.over(channel, path), sizeBytes);
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
        channel.write(offsetBytes, content);
    }

    @Override
    public void flush() throws IOException {
        channel.flush();
    }

    @Override
    public void finish() throws IOException {
        channel.finish();
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }
}
