package app.granary.engine.bag;

import app.granary.engine.openpgp.OpenPgp;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Rest;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;

/**
 * Writes frames one after the other into parts of bounded length. A part begins with a frame wherever a frame fits into a part at all, so
 * that damage to one part stays in it. What is written is pushed to the device in the background, so that the last force has little left to
 * wait for, and the log is told how far that has come.
 */
final class PartWriter implements Closeable {
    private static final long PUSH_EVERY = 64L << 20;
    /**
     * What is handed to the operating system survives the end of this program; a frame or two at a time costs no speed that can be
     * measured.
     */
    private static final long HAND_OVER_EVERY = 512 << 10;

    private final Path folder;
    private final PartNames names;
    private final long limitBytes;
    private final boolean digesting;
    private final Passphrase passphrase;
    private final CaptureLog log;
    private final ExecutorService pusher = Executors.newSingleThreadExecutor(work -> {
        Thread thread = new Thread(work, "granary-push");
        thread.setDaemon(true);
        return thread;
    });
    private final List<ImageDescription.Part> parts = new ArrayList<>();
    private final Map<String, String> digests = new LinkedHashMap<>();
    private final ByteBuffer buffer = PartFile.buffer();
    private PartFile file;
    /** Bytes of frames in the part being written, and in all parts. */
    private long partBytes;
    private long streamBytes;
    private long endedStoredBytes;
    private long handedOver;
    private long pushed;
    private boolean carriedOn;
    private Future<?> push;

    /**
     * @param limitBytes longest a part may be as a file
     * @param digesting  whether to digest; without it {@link #digests()} stays empty
     * @param ended      parts of an earlier try that are complete; then {@code openBytes} are kept of the one after them
     */
    PartWriter(Path folder, PartNames names, long limitBytes, boolean digesting, Passphrase passphrase, CaptureLog log,
        List<ImageDescription.Part> ended, long openBytes)
        throws IOException {
        this.folder = folder;
        this.names = names;
        this.limitBytes = passphrase.isNone() ? limitBytes : OpenPgp.contentWithin(limitBytes);
        this.digesting = digesting;
        this.passphrase = passphrase;
        this.log = log;
        this.parts.addAll(ended);
        this.endedStoredBytes = ended.stream().mapToLong(ImageDescription.Part::storedBytes).sum();
        this.streamBytes = ended.stream().mapToLong(ImageDescription.Part::bytes).sum() + openBytes;
        this.pushed = streamBytes;
        this.handedOver = streamBytes;
        if (openBytes > 0) {
            file = PartFile.append(folder.resolve(names.of(parts.size())), buffer, openBytes);
            partBytes = openBytes;
            carriedOn = true;
        }
    }

    private PartFile open() throws IOException {
        if (file == null) {
            file = PartFile.create(folder.resolve(names.of(parts.size())), buffer, passphrase, digesting);
            partBytes = 0;
        }
        return file;
    }

    /** Appends one frame. */
    void write(byte[] frame, int length) throws IOException {
        if (partBytes > 0 && length > limitBytes - partBytes && length <= limitBytes) {
            closePart();
        }
        int at = 0;
        while (at < length) {
            if (partBytes == limitBytes) {
                closePart();
            }
            int piece = (int) Math.min(length - at, limitBytes - partBytes);
            open().write(frame, at, piece);
            partBytes += piece;
            streamBytes += piece;
            at += piece;
        }
        if (streamBytes - handedOver >= HAND_OVER_EVERY) {
            handOver();
        }
    }

    /** After this, what was written survives the end of this program, and after the push that of the machine. */
    private void handOver() throws IOException {
        file.drain();
        log.handOver();
        handedOver = streamBytes;
        if (streamBytes - pushed >= PUSH_EVERY && (push == null || push.isDone())) {
            pushed = streamBytes;
            FileChannel channel = file.channel();
            long safe = passphrase.isNone() ? streamBytes : 0;
            push = pusher.submit(() -> {
                channel.force(false);
                log.safe(safe);
                return null;
            });
        }
    }

    private void closePart() throws IOException {
        file.end();
        awaitPush();
        file.channel().force(true);
        file.close();
        ImageDescription.Part part = new ImageDescription.Part(names.of(parts.size()), partBytes, file.storedBytes());
        if (digesting && !carriedOn) {
            digests.put("data/" + part.name(), file.digest());
        }
        parts.add(part);
        endedStoredBytes += part.storedBytes();
        log.partEnded(part);
        file = null;
        partBytes = 0;
        carriedOn = false;
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
            throw Rest.interrupted();
        } finally {
            push = null;
        }
    }

    /** Ends the last part; no frame may follow. */
    void finish() throws IOException {
        if (file != null) {
            closePart();
        }
    }

    List<ImageDescription.Part> parts() {
        return List.copyOf(parts);
    }

    /** Digests of parts by path within the bag; those carried on from an earlier try are not among them. */
    Map<String, String> digests() {
        return digests;
    }

    /** Bytes of the files so far. */
    long writtenBytes() {
        return endedStoredBytes + (file == null ? 0 : file.storedBytes());
    }

    /** What is in hand is written as far as the device takes it, so that as much as possible can be carried on from. */
    @Override
    public void close() throws IOException {
        pusher.shutdown();
        if (file != null) {
            try (PartFile open = file) {
                open.drain();
                log.handOver();
            } catch (IOException gone) {
                // the device does not take it; what it took before is what there is
            }
        }
    }
}
