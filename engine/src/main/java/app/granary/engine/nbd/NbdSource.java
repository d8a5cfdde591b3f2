package app.granary.engine.nbd;

import app.granary.core.disk.BlockSource;
import app.granary.core.fault.Fault;
import app.granary.engine.progress.Rest;
import java.io.BufferedInputStream;
import java.io.DataInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.net.ConnectException;
import java.net.StandardProtocolFamily;
import java.net.UnixDomainSocketAddress;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.SocketChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Optional;
import java.util.function.BooleanSupplier;

/** A disk that another program serves by the open NBD protocol at a socket of this machine. Several threads read one after the other. */
final class NbdSource implements BlockSource {
    private static final int MOST_AT_ONCE = 1 << 20;
    private static final long LOOK_MILLIS = 20;

    private final String name;
    private final SocketChannel channel;
    private final DataInputStream in;
    private final long sizeBytes;
    private long asked;

    /** @param name as a person knows it */
    private NbdSource(Path socket, String name) throws IOException {
        this.name = name;
        this.channel = SocketChannel.open(StandardProtocolFamily.UNIX);
        try {
            channel.connect(UnixDomainSocketAddress.of(socket));
            in = new DataInputStream(new BufferedInputStream(Channels.newInputStream(channel)));
            sizeBytes = handshake();
        } catch (IOException | RuntimeException cannot) {
            channel.close();
            throw cannot;
        }
    }

    /**
     * Waits until a server that was only just started answers. Its socket has its name a moment before anybody listens at it (bind(2),
     * listen(2)).
     *
     * @param alive whether the server still runs
     * @return empty when it ended before it answered, or did not answer in time
     */
    static Optional<NbdSource> served(Path socket, String name, Duration patience, BooleanSupplier alive) throws IOException {
        long end = System.nanoTime() + patience.toNanos();
        do {
            if (Files.exists(socket)) {
                try {
                    return Optional.of(new NbdSource(socket, name));
                } catch (ConnectException notYet) {
                    // nobody listens yet
                }
            }
            Rest.millis(LOOK_MILLIS);
        } while (alive.getAsBoolean() && System.nanoTime() < end);
        return Optional.empty();
    }

    private IOException failed(String sentence) {
        return Fault.of(Fault.Kind.DEVICE_FAILED, name, sentence).asException();
    }

    private long handshake() throws IOException {
        if (in.readLong() != Nbd.MAGIC || in.readLong() != Nbd.OPTION) {
            throw failed("What answers for " + name + " does not speak the NBD protocol.");
        }
        boolean padded = (in.readUnsignedShort() & Nbd.NO_ZEROES) == 0;
        send(ByteBuffer.allocate(20).putInt(Nbd.FIXED_NEWSTYLE | (padded ? 0 : Nbd.NO_ZEROES)).putLong(Nbd.OPTION).putInt(Nbd.EXPORT_NAME)
            .putInt(0).flip());
        long size = in.readLong();
        in.skipNBytes(2L + (padded ? NbdHandshake.OLD_PADDING : 0));
        if (size < 0) {
            throw failed("The length of " + name + " is not one.");
        }
        return size;
    }

    private void send(ByteBuffer what) throws IOException {
        while (what.hasRemaining()) {
            channel.write(what);
        }
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public long sizeBytes() {
        return sizeBytes;
    }

    @Override
    public int sectorBytes() {
        return 512;
    }

    @Override
    public synchronized void read(long offsetBytes, ByteBuffer into) throws IOException {
        if (offsetBytes < 0 || into.remaining() > sizeBytes - offsetBytes) {
            throw new EOFException(name + " ends at byte " + sizeBytes);
        }
        byte[] piece = new byte[Math.min(MOST_AT_ONCE, into.remaining())];
        for (long at = offsetBytes; into.hasRemaining(); at += piece.length) {
            int length = Math.min(piece.length, into.remaining());
            long cookie = ++asked;
            send(ByteBuffer.allocate(28).putInt(Nbd.REQUEST).putShort((short) 0).putShort((short) Nbd.READ).putLong(cookie).putLong(at)
                .putInt(length).flip());
            int magic = in.readInt();
            int failed = in.readInt();
            if (magic != Nbd.SIMPLE_REPLY || in.readLong() != cookie) {
                throw failed("What answers for " + name + " does not keep to the NBD protocol.");
            }
            if (failed != 0) {
                throw failed("Byte " + at + " of " + name + " and those behind it cannot be read (error " + failed + ").");
            }
            in.readFully(piece, 0, length);
            into.put(piece, 0, length);
        }
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }
}
