package app.granary.engine.source;

import app.granary.core.fault.Fault;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;

/** A new raw file, written as {@code name.partial} and renamed when complete. Untouched ranges stay holes. */
public final class FileTarget implements BlockTarget {
    private final Path path;
    private final Path partial;
    private final TargetChannel channel;
    private final long sizeBytes;
    private boolean finished;

    private FileTarget(Path path, Path partial, TargetChannel channel, long sizeBytes) {
        this.path = path;
        this.partial = partial;
        this.channel = channel;
        this.sizeBytes = sizeBytes;
    }

    /**
     * @param path      a file that does not exist, or is empty
     * @param sizeBytes the length it will have
     */
    public static FileTarget create(Path path, long sizeBytes) throws IOException {
        if (Files.isDirectory(path)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, path.toString(), path + " is a folder. Name a file to restore into.").asException();
        }
        if (Files.exists(path) && Files.size(path) > 0) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, path.toString(),
                path + " exists and is not empty; nothing was written. Name a new file, or move this one away first.").asException();
        }
        Path parent = path.toAbsolutePath().getParent();
        if (parent == null || !Files.isDirectory(parent)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, path.toString(),
                "There is no folder " + parent + " to restore into. Make it first, or name another.").asException();
        }
        Path partial = path.resolveSibling(path.getFileName() + ".partial");
        FileChannel channel = FileChannel.open(partial, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING,
            StandardOpenOption.WRITE);
        if (sizeBytes > 0) {
            channel.write(ByteBuffer.allocate(1), sizeBytes - 1);
        }
        return new FileTarget(path, partial, TargetChannel.over(channel, partial), sizeBytes);
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
        return true;
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
        channel.close();
        Files.move(partial, path, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        Folders.sync(path.toAbsolutePath().getParent());
        finished = true;
    }

    @Override
    public void close() throws IOException {
        channel.close();
        if (!finished) {
            Files.deleteIfExists(partial);
        }
    }
}
