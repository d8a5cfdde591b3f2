package app.granary.engine.bag;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.openpgp.OpenPgp;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * The frames of an image's parts one after the other, by the lengths they should have, digesting whatever is really there. A part that is
 * missing, short, or cannot be read or decrypted does not shift what follows it.
 */
final class PartStream implements Closeable {
    /** Bytes read at once where they are only digested. */
    static final int DRAIN = 256 * 1024;

    private final Path data;
    private final List<ImageDescription.Part> parts;
    private final Passphrase passphrase;
    private final Map<String, String> digests = new HashMap<>();
    private final Map<String, String> faults = new LinkedHashMap<>();
    private final Watch watch;
    private final boolean digesting;
    private int part = -1;
    private long at;
    private Stored stored;
    private OpenPgp.Content clear;
    private boolean broken;
    private long readBytes;

    /** @param passphrase none when the parts are not encrypted */
    PartStream(Path data, List<ImageDescription.Part> parts, Passphrase passphrase, Watch watch) throws IOException {
        this(data, parts, passphrase, watch, true);
    }

    /** @param digesting whether digests are wanted; without, they are worthless */
    PartStream(Path data, List<ImageDescription.Part> parts, Passphrase passphrase, Watch watch, boolean digesting) throws IOException {
        this.digesting = digesting;
        this.data = data;
        this.parts = parts;
        this.passphrase = passphrase;
        this.watch = watch;
        next();
    }

    /** A part's file, digested as it is read. What the device cannot give is passed over; then the digest is worthless and said to be. */
    private final class Stored extends InputStream {
        private final FileChannel channel;
        private final MessageDigest digest = Digests.sha256();
        private final long length;
        private long offset;
        private boolean unreadable;

        Stored(Path file) throws IOException {
            channel = FileChannel.open(file, StandardOpenOption.READ);
            length = channel.size();
        }

        @Override
        public int read() throws IOException {
            byte[] one = new byte[1];
            return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
        }

        @Override
        public int read(byte[] into, int from, int count) throws IOException {
            int want = (int) Math.min(count, length - offset);
            if (want <= 0) {
                return -1;
            }
            ByteBuffer buffer = ByteBuffer.wrap(into, from, want);
            try {
                while (buffer.hasRemaining() && channel.read(buffer, offset + buffer.position() - from) >= 0) {
                    continue;
                }
            } catch (java.nio.channels.ClosedByInterruptException stopped) {
                throw stopped;
            } catch (IOException failure) {
                failed(failure);
                offset += want;
                throw failure;
            }
            int got = want - buffer.remaining();
            if (digesting) {
                Digests.update(digest, into, from, got);
            }
            offset += got;
            readBytes += got;
            return got == 0 ? -1 : got;
        }

        private void failed(IOException failure) throws IOException {
            if (!Files.isDirectory(data)) {
                throw Fault
                    .of(Fault.Kind.DEVICE_FAILED, data.toString(), "The drive went away while the image was read (" + failure.getMessage()
                        + "). Nothing is said of the image; attach the drive and check it again.")
                    .asException();
            }
            unreadable = true;
            faults.putIfAbsent(path(), "the device cannot read it at byte " + offset + " (" + failure.getMessage() + ")");
        }

        String result() {
            return unreadable ? "unreadable" : Digests.hex(digest.digest());
        }
    }

    private String path() {
        return "data/" + parts.get(part).name();
    }

    /** Number of the part the next byte comes from. */
    int part() {
        return part;
    }

    /** Offset of the next byte within its part, among its bytes of frames. */
    long at() {
        return at;
    }

    /** Bytes of files read so far. */
    long readBytes() {
        return readBytes;
    }

    /** Digests of the parts that were there, whole as found; complete once all bytes were read. */
    Map<String, String> digests() {
        return digests;
    }

    /** What is wrong with parts as files, by path; complete once all bytes were read. */
    Map<String, String> faults() {
        return faults;
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
            all &= piece(into, done, piece);
            at += piece;
            done += piece;
        }
        return all;
    }

    private boolean piece(byte[] into, int from, int length) throws IOException {
        if (stored == null || broken) {
            return false;
        }
        try {
            return (clear == null ? stored : clear).readNBytes(into, from, length) == length;
        } catch (FaultException gone) {
            throw gone;
        } catch (java.nio.channels.ClosedByInterruptException stopped) {
            throw stopped;
        } catch (IOException unreadable) {
            if (clear != null) {
                broken = true;
                faults.putIfAbsent(path(), unreadable.getMessage());
            }
            return false;
        }
    }

    /** Moves past the current part and any empty ones; a part that is longer than it should be is digested to its end. */
    private void next() throws IOException {
        do {
            end();
            part++;
            at = 0;
            if (part < parts.size()) {
                open(data.resolve(parts.get(part).name()));
            }
        } while (part < parts.size() && parts.get(part).bytes() == 0);
    }

    private void open(Path file) throws IOException {
        broken = false;
        clear = null;
        if (!Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
            return;
        }
        stored = new Stored(file);
        digests.put(path(), "");
        if (passphrase.isNone()) {
            return;
        }
        try {
            clear = OpenPgp.decrypting(stored, passphrase, path());
        } catch (FaultException fault) {
            if (fault.fault().kind() == Fault.Kind.DEVICE_FAILED) {
                throw fault;
            }
            // the passphrase was tried before, so what is wrong is this part
            broken = true;
            faults.putIfAbsent(path(), fault.getMessage());
        } catch (IOException unreadable) {
            broken = true;
            faults.putIfAbsent(path(), unreadable.getMessage());
        }
    }

    /** Ends the last part; to be called once all bytes were taken. */
    void finish() throws IOException {
        while (part < parts.size()) {
            next();
        }
    }

    private void end() throws IOException {
        if (stored == null) {
            return;
        }
        if (clear != null && !broken) {
            endOfMessage();
        }
        byte[] buffer = new byte[DRAIN];
        while (stored.offset < stored.length) {
            watch.requireGoingOn(parts.get(part).name());
            try {
                if (stored.read(buffer) < 0) {
                    break;
                }
            } catch (FaultException | java.nio.channels.ClosedByInterruptException gone) {
                throw gone;
            } catch (IOException unreadable) {
                continue; // noted; what follows it may be readable
            }
        }
        digests.put(path(), stored.result());
        stored.channel.close();
        stored = null;
    }

    private void endOfMessage() throws IOException {
        try {
            if (clear.read() >= 0) {
                faults.putIfAbsent(path(), "it holds more than it should");
            } else if (!clear.intact()) {
                faults.putIfAbsent(path(), "its OpenPGP message is not intact");
            }
        } catch (FaultException gone) {
            throw gone;
        } catch (IOException unreadable) {
            faults.putIfAbsent(path(), unreadable.getMessage());
        }
    }

    @Override
    public void close() throws IOException {
        if (stored != null) {
            stored.channel.close();
        }
    }
}
