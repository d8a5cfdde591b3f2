package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.engine.codec.Chunks;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;

/**
 * What differs between what a target holds and what it is to hold: only that is written, and only that is read back afterwards, since all
 * else was just read and is as it is to be. By several threads at once.
 */
final class Changes implements Closeable {
    /** So much is told apart at once: little enough that a changed file does not drag its neighbours along. */
    private static final int PIECE = 64 << 10;
    /** Beyond so many the whole target is read back instead: a note of each would take more room than it saves. */
    private static final int MOST = 1_000_000;

    private final BlockSource there;
    private final ThreadLocal<byte[]> buffer = ThreadLocal.withInitial(() -> new byte[PIECE]);
    private final List<Written> written = new ArrayList<>();
    private boolean tooMany;

    /** @param crc CRC-32C of what was written */
    private record Written(long at, int length, int crc) {
    }

    /** Writes what differs. */
    interface Put {
        void put(long at, byte[] content, int from, int length) throws IOException;
    }

    /** @param there the target as it is, closed with this */
    Changes(BlockSource there) {
        this.there = there;
    }

    void write(long at, byte[] content, int from, int length, Put put) throws IOException {
        for (int done = 0; done < length;) {
            int piece = (int) Math.min(length - done, PIECE - (at + done) % PIECE);
            byte[] now = buffer.get();
            there.read(at + done, ByteBuffer.wrap(now, 0, piece));
            if (!java.util.Arrays.equals(now, 0, piece, content, from + done, from + done + piece)) {
                put.put(at + done, content, from + done, piece);
                note(at + done, content, from + done, piece);
            }
            done += piece;
        }
    }

    private void note(long at, byte[] content, int from, int length) {
        byte[] piece = java.util.Arrays.copyOfRange(content, from, from + length);
        Written one = new Written(at, length, Chunks.crc(piece, length));
        synchronized (written) {
            tooMany |= written.size() >= MOST;
            if (!tooMany) {
                written.add(one);
            }
        }
    }

    /** Whether there is more than is noted, so that the whole target has to be read back. */
    boolean tooMany() {
        return tooMany;
    }

    /** Where on the target something else is read back than was written; pieces that a patch lies over are held against it alone. */
    List<Long> lost(BlockSource restored, List<Patch> patches) throws IOException {
        List<Long> out = new ArrayList<>();
        byte[] now = new byte[PIECE];
        for (Written each : written) {
            boolean patched = patches.stream().anyMatch(patch -> patch.offsetBytes() < each.at + each.length && patch.endBytes() > each.at);
            restored.read(each.at, ByteBuffer.wrap(now, 0, each.length));
            if (!patched && Chunks.crc(now, each.length) != each.crc) {
                out.add(each.at);
            }
        }
        return out;
    }

    @Override
    public void close() throws IOException {
        there.close();
    }
}
