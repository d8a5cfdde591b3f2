package app.granary.engine.source;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.PartitionTables;
import app.granary.core.fault.Fault;
import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;
import java.util.OptionalLong;

/** A raw disk image file or a block device, opened for reading only. */
public final class RawSource implements BlockSource {
    private final Path path;
    private final FileChannel channel;
    private final long sizeBytes;
    private int sectorBytes = 512;
    private Optional<DirectChannel> direct = Optional.empty();

    private RawSource(Path path, FileChannel channel) throws IOException {
        this.path = path;
        this.channel = channel;
        this.sizeBytes = channel.size(); // the JDK asks a block device for its own length
    }

    /**
     * @throws app.granary.core.fault.FaultException when there is nothing that can be read at that path
     */
    public static RawSource open(Path path) throws IOException {
        if (Files.isDirectory(path)) {
            throw Fault
                .of(Fault.Kind.NOT_RECOGNISED, path.toString(), path + " is a folder, not a disk. Name a raw disk image file or a device.")
                .asException();
        }
        try {
            RawSource source = new RawSource(path, FileChannel.open(path, StandardOpenOption.READ));
            source.sectorBytes = source.isDevice() ? Sysfs.sectorBytes(path) : PartitionTables.sectorBytes(source);
            return source;
        } catch (NoSuchFileException missing) {
            throw Fault
                .of(Fault.Kind.NOT_RECOGNISED, path.toString(), "There is no " + path + ". Check the path; a drive may not be attached.")
                .asException();
        } catch (java.nio.file.AccessDeniedException denied) {
            throw Fault.of(Fault.Kind.DEVICE_FAILED, path.toString(),
                path + " may not be read by this account. Start Granary with the rights to read it.").asException();
        }
    }

    /** The same, long pieces read past the page cache where the file system allows it: what comes is then what is on the device. */
    public static RawSource openPastCache(Path path) throws IOException {
        RawSource source = open(path);
        source.direct = DirectChannel.open(path);
        return source;
    }

    private boolean isDevice() throws IOException {
        return !Files.isRegularFile(path);
    }

    /** The same file read with another logical sector: an MBR does not tell which one it was made for. */
    public RawSource withSectorBytes(int bytes) {
        sectorBytes = bytes;
        return this;
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
    public int sectorBytes() {
        return sectorBytes;
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        long at = offsetBytes;
        try {
            while (into.hasRemaining()) {
                int count = readSome(at, into);
                if (count < 0) {
                    throw new EOFException("it ends at byte " + at + ", " + into.remaining() + " bytes early");
                }
                at += count;
            }
        } catch (java.nio.channels.ClosedByInterruptException stopped) {
            throw stopped;
        } catch (IOException failure) {
            throw new Fault(Fault.Kind.DEVICE_FAILED, name(), OptionalLong.of(at), into.remaining() + " more bytes",
                "" + failure.getMessage(),
                name() + " could not be read at byte " + at + ": " + failure.getMessage()
                    + ". Nothing was changed on it; check its cable and try again.")
                .asException();
        }
    }

    private int readSome(long at, ByteBuffer into) throws IOException {
        boolean past = direct.isPresent() && into.remaining() >= DirectChannel.WORTH_BYTES && direct.get().toWholeBlock(at) == 0;
        return past ? direct.get().read(at, into) : channel.read(into, at);
    }

    @Override
    public void close() throws IOException {
        if (direct.isPresent()) {
            direct.get().close();
        }
        channel.close();
    }
}
