package app.granary.engine.bag;

import app.granary.engine.progress.Watch;
import java.io.BufferedInputStream;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.security.MessageDigest;

/**
 * The parts of an image read one after the other, by the lengths they should have, digesting whatever is really there. A part that is
 * missing or short does not shift what follows it.
 */
final class PartStream implements Closeable {
    private final Path data;
    private final List<ImageDescription.Part> parts;
    private final Map<String, String> digests = new HashMap<>();
    private final Watch watch;
    private int part = -1;
    private long at;
    private long got;
    private InputStream in = InputStream.nullInputStream();
    private MessageDigest digest = Digests.sha256();
    private long readBytes;

    PartStream(Path data, List<ImageDescription.Part> parts, Watch watch) throws IOException {
        this.data = data;
        this.parts = parts;
        this.watch = watch;
        next();
    }

    /** Number of the part the next byte comes from. */
    int part() {
        return part;
    }

    /** Offset of the next byte within its part. */
    long at() {
        return at;
    }

    long readBytes() {
        return readBytes;
    }

    /** Digests of the parts that were there, whole as found; complete once all bytes were read. */
    Map<String, String> digests() {
        return digests;
    }

    /** Takes {@code length} bytes; false when not all of them are there. Steps over the end of a part only when more is asked for. */
    boolean fill(byte[] into, int length) throws IOException {
        int done = 0;
        boolean all = true;
        while (done < length) {
            if (at == parts.get(part).bytes()) {
                next();
            }
            int piece = (int) Math.min(length - done, parts.get(part).bytes() - at);
            int count = in.readNBytes(into, done, piece);
            Digests.update(digest, into, done, count);
            got += count;
            readBytes += count;
            all &= count == piece;
            at += piece;
            done += piece;
        }
        return all;
    }

    /** Moves past the current part and any empty ones; a part that is longer than it should be is digested to its end. */
    private void next() throws IOException {
        do {
            end();
            part++;
            at = 0;
            got = 0;
            if (part < parts.size()) {
                Path file = data.resolve(parts.get(part).name());
                digest = Digests.sha256();
                if (Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
                    in = new BufferedInputStream(Files.newInputStream(file, LinkOption.NOFOLLOW_LINKS), 64 * 1024);
                    digests.put("data/" + parts.get(part).name(), "");
                }
            }
        } while (part < parts.size() && parts.get(part).bytes() == 0);
    }

    /** Ends the last part; to be called once all bytes were taken. */
    void finish() throws IOException {
        while (part < parts.size()) {
            next();
        }
    }

    private void end() throws IOException {
        if (part < 0 || part >= parts.size()) {
            return;
        }
        byte[] buffer = new byte[64 * 1024];
        for (int count = in.read(buffer); count >= 0; count = in.read(buffer)) {
            watch.requireGoingOn(parts.get(part).name());
            Digests.update(digest, buffer, 0, count);
            readBytes += count;
        }
        in.close();
        in = InputStream.nullInputStream();
        digests.computeIfPresent("data/" + parts.get(part).name(), (name, none) -> Digests.hex(digest.digest()));
    }

    @Override
    public void close() throws IOException {
        in.close();
    }
}
