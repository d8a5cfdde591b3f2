package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.capture.CarefulSource;
import app.granary.engine.codec.Chunks;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/** A disk as it is now, or a file that is to be one. What of it cannot be read is the source's own to tell. */
final class DiskChunks implements ChunkSource {
    /** So many chunks go by between two looks at whoever watches. */
    private static final int LOOK_EVERY = 16;

    private final BlockSource source;
    private final Extents used;
    private final Sound sound;

    /** What is made sure of before the first byte is overwritten. */
    interface Sound {
        void require(Watch watch) throws IOException;
    }

    /** One there is nothing to hold against. */
    DiskChunks(BlockSource source, Extents used) {
        this(source, used, watch -> { });
    }

    DiskChunks(BlockSource source, Extents used, Sound sound) {
        this.source = source;
        this.used = used;
        this.sound = sound;
    }

    @Override
    public String name() {
        return source.name();
    }

    @Override
    public long sizeBytes() {
        return source.sizeBytes();
    }

    @Override
    public Extents used() {
        return used;
    }

    @Override
    public ChunkSource only(Extents wanted) {
        return new DiskChunks(source, wanted, sound);
    }

    /** It may change between two tries, so what was written of it before is written again. */
    @Override
    public Optional<String> identity() {
        return Optional.empty();
    }

    @Override
    public void requireSound(Watch watch) throws IOException {
        sound.require(watch);
    }

    @Override
    public List<Patch> patches(RestoreLayout layout) throws IOException {
        return Patches.of(source, layout);
    }

    @Override
    public void chunks(long from, Progress.Stage stage, Watch watch, Taker taker) throws IOException {
        byte[] content = new byte[Chunks.BYTES];
        long done = 0;
        long looked = -1;
        for (long chunk = from; chunk < count();) {
            if (chunk / LOOK_EVERY != looked) {
                looked = chunk / LOOK_EVERY;
                watch.requireGoingOn(name());
                watch.advanced(new Progress(stage, done, used.totalBytes(), done));
            }
            long equal = Math.max(1, unused(chunk));
            int length = Chunks.length(chunk + equal - 1, sizeBytes());
            done += read(chunk * Chunks.BYTES, content, length);
            taker.content(chunk, equal, content, length);
            chunk += equal;
        }
    }

    /** How many chunks in a row hold nothing that is in use. */
    private long unused(long chunk) {
        int next = used.firstEndingAfter(chunk * Chunks.BYTES);
        long until = next < used.count() ? used.start(next) / Chunks.BYTES : count();
        return Math.max(0, until - chunk);
    }

    /** @return bytes that are in use */
    private long read(long at, byte[] into, int length) throws IOException {
        Arrays.fill(into, 0, length, (byte) 0);
        long read = 0;
        for (int i = used.firstEndingAfter(at); i < used.count() && used.start(i) < at + length; i++) {
            int from = (int) (Math.max(at, used.start(i)) - at);
            int to = (int) (Math.min(at + length, used.end(i)) - at);
            source.read(at + from, ByteBuffer.wrap(into, from, to - from));
            read += to - from;
        }
        return read;
    }

    @Override
    public Extents unread() {
        if (!(source instanceof CarefulSource careful)) {
            return Extents.NONE;
        }
        Extents.Builder out = new Extents.Builder();
        careful.bad().forEach(each -> out.add(each.startBytes(), each.endBytes()));
        return out.build();
    }

    @Override
    public boolean onwards() {
        return true;
    }

    @Override
    public Reader reader() {
        return new Reader() {
            @Override
            public OptionalInt crc(long chunk) {
                return OptionalInt.empty();
            }

            @Override
            public void read(long at, byte[] into, int length) throws IOException {
                DiskChunks.this.read(at, into, length);
            }

            @Override
            public void close() {
                // the disk is whoever opened it's
            }
        };
    }

    @Override
    public String where(long from, long to) {
        return "";
    }

    @Override
    public String differs(long from, long to) {
        return "What was written differs from the source at bytes " + from + " to " + (to - 1)
            + ". Do not rely on this copy; its medium may be failing.";
    }
}
