package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.codec.Chunks;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/** An image with what was written over it: gone through as quickly as the image itself, and held against its own checksums where it can. */
final class OverlaidChunks implements ChunkSource {
    private static final byte[] ZEROS = new byte[Chunks.BYTES];

    private final ChunkSource image;
    private final DiskChunks disk;
    private final BlockSource overlaid;
    private final Extents used;
    private final Extents written;

    /**
     * @param overlaid the same disk, as it is now
     * @param used     of it, now
     * @param written  where it is not what the image holds
     * @param sound    how the image is proven before the first byte is overwritten
     */
    OverlaidChunks(ChunkSource image, BlockSource overlaid, Extents used, Extents written, DiskChunks.Sound sound) {
        this.image = image;
        this.overlaid = overlaid;
        this.used = used;
        this.written = written;
        this.disk = new DiskChunks(overlaid, used, sound);
    }

    @Override
    public String name() {
        return image.name();
    }

    @Override
    public long sizeBytes() {
        return image.sizeBytes();
    }

    @Override
    public long count() {
        return image.count();
    }

    @Override
    public Extents used() {
        return used;
    }

    @Override
    public ChunkSource only(Extents wanted) {
        return disk.only(wanted);
    }

    /** The tools write times, so it is another one each time. */
    @Override
    public Optional<String> identity() {
        return Optional.empty();
    }

    @Override
    public void requireSound(Watch watch) throws IOException {
        disk.requireSound(watch);
    }

    @Override
    public List<Patch> patches(RestoreLayout layout) throws IOException {
        return disk.patches(layout);
    }

    @Override
    public boolean onwards() {
        return false;
    }

    @Override
    public String where(long from, long to) {
        return image.where(from, to);
    }

    @Override
    public String differs(long from, long to) {
        return image.differs(from, to);
    }

    @Override
    public void chunks(long from, Progress.Stage stage, Watch watch, Taker taker) throws IOException {
        image.chunks(from, stage, watch, new Taker() {
            private final ThreadLocal<byte[]> own = ThreadLocal.withInitial(() -> new byte[Chunks.BYTES]);

            @Override
            public void content(long chunk, long count, byte[] content, int length) throws IOException {
                long at = chunk * Chunks.BYTES;
                long end = at + (count - 1) * Chunks.BYTES + length;
                boolean zeros = Chunks.isZero(content, length);
                if (written.bytesWithin(at, end) == 0 && (zeros || used.bytesWithin(at, end) == end - at)) {
                    taker.content(chunk, count, content, length);
                    return;
                }
                // of a row whose last chunk is short only so much of the content is told
                byte[] each = zeros ? ZEROS : content;
                for (long i = 0; i < count; i++) {
                    int bytes = i == count - 1 ? length : Chunks.BYTES;
                    taker.content(chunk + i, 1, overlaid((chunk + i) * Chunks.BYTES, each, bytes, own.get()), bytes);
                }
            }

            @Override
            public void damaged(long chunk, String why) throws IOException {
                taker.damaged(chunk, why);
            }
        });
    }

    /** What is not in use is zeros, also where the image holds what was in use before. */
    private byte[] overlaid(long at, byte[] content, int length, byte[] into) throws IOException {
        Arrays.fill(into, 0, length, (byte) 0);
        Extents kept = used.within(at, at + length);
        for (int i = 0; i < kept.count(); i++) {
            int from = (int) kept.start(i);
            int to = (int) kept.end(i);
            System.arraycopy(content, from, into, from, to - from);
            Extents over = written.within(at + from, at + to).shift(from);
            for (int n = 0; n < over.count(); n++) {
                overlaid.read(at + over.start(n), ByteBuffer.wrap(into, (int) over.start(n), (int) (over.end(n) - over.start(n))));
            }
        }
        return into;
    }

    @Override
    public Reader reader() throws IOException {
        Reader ofImage = image.reader();
        Reader ofDisk = disk.reader();
        return new Reader() {
            @Override
            public OptionalInt crc(long chunk) {
                long at = chunk * Chunks.BYTES;
                return written.bytesWithin(at, at + Chunks.BYTES) == 0 ? ofImage.crc(chunk) : OptionalInt.empty();
            }

            @Override
            public void read(long at, byte[] into, int length) throws IOException {
                ofDisk.read(at, into, length);
            }

            @Override
            public void close() throws IOException {
                ofImage.close();
                ofDisk.close();
            }
        };
    }
}
