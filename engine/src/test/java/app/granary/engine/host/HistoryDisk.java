package app.granary.engine.host;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** A disk of the machine, with what it should hold by all that was allowed to write to it. */
final class HistoryDisk {
    static final int BYTES = (1 << 20) + (64 << 10);
    private static final byte[] NOISE = new byte[2 * BYTES];

    static {
        new Random(1).nextBytes(NOISE);
    }

    final DiskIdentity identity;
    final byte[] bytes = new byte[BYTES];
    final byte[] shadow;
    String path;
    int attachment;
    boolean mounted;
    int holder;
    /** For each capture that is under way, what it held at each moment of it. */
    final List<List<byte[]>> captures = new ArrayList<>();

    HistoryDisk(DiskIdentity identity, String path, int attachment, Random random) {
        this.identity = identity;
        this.path = path;
        this.attachment = attachment;
        System.arraycopy(NOISE, random.nextInt(BYTES), bytes, 0, BYTES);
        this.shadow = bytes.clone();
    }

    synchronized void allowed(int at, byte[] content) {
        System.arraycopy(content, 0, bytes, at, content.length);
        System.arraycopy(content, 0, shadow, at, content.length);
        captures.forEach(moments -> moments.add(bytes.clone()));
    }

    String attached() {
        return "boot-" + attachment;
    }

    /** Gives its bytes as long as it stays plugged in. */
    BlockSource source() {
        int begun = attachment;
        return new BlockSource() {
            @Override
            public String name() {
                return path;
            }

            @Override
            public long sizeBytes() {
                return BYTES;
            }

            @Override
            public int sectorBytes() {
                return 512;
            }

            @Override
            public void read(long offset, ByteBuffer into) throws IOException {
                synchronized (HistoryDisk.this) {
                    if (attachment != begun) {
                        throw new IOException("Input/output error");
                    }
                    into.put(bytes, (int) offset, into.remaining());
                }
            }
        };
    }
}
