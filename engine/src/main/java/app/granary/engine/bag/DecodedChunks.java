package app.granary.engine.bag;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.codec.BadFrameException;
import app.granary.engine.codec.Chunks;
import app.granary.engine.codec.FrameCoder;
import app.granary.engine.progress.Rest;
import java.io.Closeable;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.FutureTask;

/**
 * The chunks of an image, decoded as they are asked for: several at once for several readers, and those that follow where somebody reads
 * on. The ones used last are kept in memory, and nowhere else. Safe for several threads.
 */
final class DecodedChunks implements Closeable {
    private static final int PROCESSORS = Math.max(1, Runtime.getRuntime().availableProcessors());

    private final ImageDescription description;
    private final FrameIndex index;
    private final long[] rowOffsets;
    private final StoredBytes bytes;
    private final Deque<Decoder> idle = new ArrayDeque<>();
    /** By number, the one used longest ago first. */
    private final Map<Long, FutureTask<byte[]>> kept = new LinkedHashMap<>(32, 0.75f, true);
    private final int keptAtMost;
    private final int ahead;
    private final ExecutorService reading;
    private long last = -2;
    private volatile boolean closed;

    /** What one thread decodes with. */
    private record Decoder(FrameCoder coder, byte[] stored) {
    }

    /**
     * @param bag        opened with its passphrase, if it has one
     * @param keptAtMost 1 or more, of 1 MiB each
     * @param ahead      how many are decoded ahead of whoever reads on; 0 for none
     */
    DecodedChunks(Bag bag, ImageJson.Content content, int keptAtMost, int ahead) throws IOException {
        this.description = content.description();
        this.index = content.index();
        this.keptAtMost = keptAtMost;
        this.ahead = ahead;
        this.rowOffsets = new long[index.rows()];
        for (int row = 1; row < rowOffsets.length; row++) {
            rowOffsets[row] = rowOffsets[row - 1] + index.count(row - 1) * index.storedBytes(row - 1);
        }
        this.bytes = new StoredBytes(bag.folder().resolve("data"), description.parts(), bag.passphraseFor(description));
        this.reading = Executors.newFixedThreadPool(PROCESSORS, work -> {
            Thread thread = new Thread(work, "granary-chunks");
            thread.setDaemon(true);
            return thread;
        });
    }

    /** Whole, and longer than the disk for its last one. Not to be changed. */
    byte[] chunk(long number) throws IOException {
        FutureTask<byte[]> mine = task(number);
        readOn(number);
        mine.run(); // returns at once when it was begun before
        try {
            return mine.get();
        } catch (InterruptedException stopped) {
            throw Rest.interrupted();
        } catch (ExecutionException failed) {
            forget(number, mine);
            // each reader gets a failure of its own
            throw failed.getCause() instanceof FaultException known ? known.fault().asException()
                : new IOException(failed.getCause());
        }
    }

    private synchronized FutureTask<byte[]> task(long number) {
        FutureTask<byte[]> there = kept.get(number);
        return there == null ? begun(number) : there;
    }

    private FutureTask<byte[]> begun(long number) {
        FutureTask<byte[]> fresh = new FutureTask<>(() -> decoded(number));
        kept.put(number, fresh);
        while (kept.size() > keptAtMost + ahead) {
            kept.remove(kept.keySet().iterator().next());
        }
        return fresh;
    }

    private synchronized void forget(long number, FutureTask<byte[]> failed) {
        kept.remove(number, failed);
    }

    private synchronized void readOn(long number) {
        boolean on = number == last + 1;
        last = number;
        for (long next = number + 1; on && next <= number + ahead && next < index.chunks(); next++) {
            if (!kept.containsKey(next) && !reading.isShutdown()) {
                reading.execute(begun(next));
            }
        }
    }

    private byte[] decoded(long number) throws IOException {
        Decoder decoder = taken();
        try {
            int row = index.rowOf(number);
            int length = index.storedBytes(row);
            synchronized (bytes) {
                if (!bytes.read(rowOffsets[row] + (number - index.firstChunk(row)) * length, decoder.stored, length)) {
                    throw Fault.of(Fault.Kind.DAMAGED, description.name(), "Parts of the image " + description.name()
                        + " are missing or cut short. Check it.").asException();
                }
            }
            byte[] raw = new byte[Chunks.BYTES];
            int rawBytes = Chunks.length(number, description.disk().sizeBytes());
            decoder.coder.decode(decoder.stored, length, raw, rawBytes);
            if (Chunks.crc(raw, rawBytes) != index.crc(row)) {
                throw damaged(number);
            }
            return raw;
        } catch (BadFrameException broken) {
            throw damaged(number);
        } finally {
            given(decoder);
        }
    }

    private IOException damaged(long chunk) {
        return Fault.of(Fault.Kind.DAMAGED, description.name(), "The image " + description.name() + " is damaged at byte "
            + chunk * Chunks.BYTES + " of the disk. Check it.").asException();
    }

    private Decoder taken() throws IOException {
        synchronized (idle) {
            if (!idle.isEmpty()) {
                return idle.pop();
            }
        }
        return new Decoder(description.codec().coder(description.level()), new byte[description.codec().maxFrameBytes(Chunks.BYTES)]);
    }

    private void given(Decoder decoder) {
        synchronized (idle) {
            if (closed) {
                decoder.coder.close();
            } else {
                idle.push(decoder);
            }
        }
    }

    @Override
    public void close() throws IOException {
        reading.shutdownNow();
        synchronized (idle) {
            closed = true;
            idle.forEach(each -> each.coder.close());
            idle.clear();
        }
        synchronized (bytes) {
            bytes.close();
        }
    }
}
