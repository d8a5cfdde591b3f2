package app.granary.engine.restore;

import app.granary.core.disk.Extents;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.codec.Chunks;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;

/**
 * Lays what is in use of some partitions into a scratch file each, in one reading of their disk. The rest of a file stays a hole. Bytes
 * are written by as many threads as the disk is read by.
 */
final class Laying implements ChunkSource.Taker, Closeable {
    private final ChunkSource source;
    private final List<Part> parts = new ArrayList<>();

    /** @param used of the disk, within the partition */
    private record Part(long startBytes, long sizeBytes, Extents used, Path file, FileChannel out) {
    }

    /** @param source of the disk */
    Laying(ChunkSource source) {
        this.source = source;
    }

    /** @param file is made, and as long as the partition */
    void add(long startBytes, long sizeBytes, Path file) throws IOException {
        Extents used = source.used().within(startBytes, startBytes + sizeBytes).shift(startBytes);
        try {
            parts.add(new Part(startBytes, sizeBytes, used, file, FileChannel.open(file, StandardOpenOption.CREATE_NEW,
                StandardOpenOption.WRITE)));
        } catch (IOException failed) {
            throw notWritten(file, failed);
        }
    }

    /** @throws FaultException when the disk or a file fails */
    void run(Watch watch) throws IOException {
        Extents wanted = Extents.NONE;
        for (Part each : parts) {
            wanted = wanted.union(each.used);
        }
        source.only(wanted).chunks(0, Progress.Stage.SHRINKING, watch, this);
        for (Part each : parts) {
            if (each.out.size() < each.sizeBytes) {
                put(each, each.sizeBytes - 1, ByteBuffer.allocate(1));
            }
        }
    }

    @Override
    public void content(long chunk, long count, byte[] content, int length) throws IOException {
        if (Chunks.isZero(content, length)) {
            return;
        }
        for (long i = 0; i < count; i++) {
            long at = (chunk + i) * Chunks.BYTES;
            for (Part part : parts) {
                Extents used = part.used;
                for (int n = used.firstEndingAfter(at); n < used.count() && used.start(n) < at + length; n++) {
                    long from = Math.max(at, used.start(n));
                    long to = Math.min(at + length, used.end(n));
                    put(part, from - part.startBytes, ByteBuffer.wrap(content, (int) (from - at), (int) (to - from)));
                }
            }
        }
    }

    private void put(Part part, long at, ByteBuffer from) throws IOException {
        try {
            for (long to = at; from.hasRemaining();) {
                to += part.out.write(from, to);
            }
        } catch (IOException failed) {
            throw notWritten(part.file, failed);
        }
    }

    private static FaultException notWritten(Path file, IOException failed) {
        return Fault.of(Fault.Kind.DEVICE_FAILED, file.toString(), "The scratch file could not be written: " + failed.getMessage()
            + ". Its drive may be full or gone: name another folder.").asException();
    }

    @Override
    public void damaged(long chunk, String why) throws IOException {
        long at = chunk * Chunks.BYTES;
        throw Fault.damaged(source.name(), at, "", "", source.name() + " is damaged at byte " + at + " of the disk: " + why
            + ". Check the image, and use another copy.").asException();
    }

    @Override
    public void close() throws IOException {
        for (Part each : parts) {
            each.out.close();
        }
    }
}
