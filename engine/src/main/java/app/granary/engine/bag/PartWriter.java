package app.granary.engine.bag;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;

/**
 * Writes frames one after the other into parts of bounded length, digesting as it goes if asked to. A part begins with a frame wherever a
 * frame fits into a part at all, so that damage to one part stays in it. What is written is pushed to the device in the background, so that the
 * last force has little left to wait for.
 */
final class PartWriter implements Closeable {
    private static final long PUSH_EVERY = 64L << 20;
    private static final int BUFFER = 2 << 20;

    private final Path folder;
    private final String stem;
    private final int digits;
    private final long limitBytes;
    private final boolean digesting;
    private final ExecutorService pusher = Executors.newSingleThreadExecutor(work -> {
        Thread thread = new Thread(work, "granary-push");
        thread.setDaemon(true);
        return thread;
    });
    private final List<ImageDescription.Part> parts = new ArrayList<>();
    private final Map<String, String> digests = new LinkedHashMap<>();
    private final ByteBuffer out = ByteBuffer.allocateDirect(BUFFER);
    private FileChannel channel;
    private MessageDigest digest = Digests.sha256();
    private long partBytes;
    private long sincePush;
    private Future<?> push;

    /**
     * @param stem       file name up to the number, with its dot: {@code "disk.img.zst."}
     * @param limitBytes longest a part may be
     * @param maxParts   how many there can be at worst; decides the digits of the number, at least three
     * @param digesting  whether to digest; without it {@link #digests()} stays empty
     */
    PartWriter(Path folder, String stem, long limitBytes, long maxParts, boolean digesting) throws IOException {
        this.folder = folder;
        this.stem = stem;
        this.limitBytes = limitBytes;
        this.digesting = digesting;
        this.digits = Math.max(3, Long.toString(maxParts - 1).length());
        open();
    }

    private String partName() {
        return stem + String.format(Locale.ROOT, "%0" + digits + "d", parts.size());
    }

    private void open() throws IOException {
        channel = FileChannel.open(folder.resolve(partName()), StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
        digest = Digests.sha256();
        partBytes = 0;
        sincePush = 0;
    }

    /** Appends one frame. */
    void write(byte[] frame, int length) throws IOException {
        if (partBytes > 0 && length > limitBytes - partBytes && length <= limitBytes) {
            nextPart();
        }
        int at = 0;
        while (at < length) {
            if (partBytes == limitBytes) {
                nextPart();
            }
            int piece = (int) Math.min(length - at, limitBytes - partBytes);
            if (digesting) {
                Digests.update(digest, frame, at, piece);
            }
            buffered(frame, at, piece);
            partBytes += piece;
            at += piece;
        }
    }

    private void buffered(byte[] from, int at, int length) throws IOException {
        if (length > out.remaining()) {
            drain();
        }
        out.put(from, at, length);
    }

    private void drain() throws IOException {
        out.flip();
        sincePush += out.remaining();
        while (out.hasRemaining()) {
            channel.write(out);
        }
        out.clear();
        if (sincePush >= PUSH_EVERY && (push == null || push.isDone())) {
            sincePush = 0;
            FileChannel pushed = channel;
            push = pusher.submit(() -> {
                pushed.force(false);
                return null;
            });
        }
    }

    private void nextPart() throws IOException {
        closePart();
        open();
    }

    private void closePart() throws IOException {
        drain();
        awaitPush();
        channel.force(true);
        channel.close();
        String name = partName();
        parts.add(new ImageDescription.Part(name, partBytes));
        if (digesting) {
            digests.put("data/" + name, Digests.hex(digest.digest()));
        }
    }

    private void awaitPush() throws IOException {
        if (push == null) {
            return;
        }
        try {
            push.get();
        } catch (ExecutionException failed) {
            throw failed.getCause() instanceof IOException io ? io : new IOException(failed.getCause());
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new java.nio.channels.ClosedByInterruptException();
        } finally {
            push = null;
        }
    }

    /** Ends the last part; no frame may follow. */
    void finish() throws IOException {
        closePart();
    }

    List<ImageDescription.Part> parts() {
        return List.copyOf(parts);
    }

    /** Digests of all ended parts by path within the bag. */
    Map<String, String> digests() {
        return digests;
    }

    long writtenBytes() {
        return parts.stream().mapToLong(ImageDescription.Part::bytes).sum() + (channel.isOpen() ? partBytes : 0);
    }

    @Override
    public void close() throws IOException {
        pusher.shutdown();
        channel.close();
    }
}
