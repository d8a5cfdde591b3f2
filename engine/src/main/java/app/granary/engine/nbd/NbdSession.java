package app.granary.engine.nbd;

import app.granary.core.disk.Sparse;
import java.io.BufferedInputStream;
import java.io.DataInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.SocketChannel;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** One reader, from its greeting to its end. Trusts nothing it says: lengths are bounded, and what is past the end is refused. */
final class NbdSession {
    /** Longest that is read at once, as the protocol recommends. */
    static final int MOST = 32 << 20;
    private static final int PIECE = 1 << 20;
    private static final int MOST_STRETCHES = 4096;

    private final SocketChannel channel;
    private final DataInputStream in;
    private final NbdExport export;
    private NbdHandshake.Agreed agreed;

    NbdSession(SocketChannel channel, NbdExport export) {
        this.channel = channel;
        this.export = export;
        this.in = new DataInputStream(new BufferedInputStream(Channels.newInputStream(channel)));
    }

    /** Returns when the reader has gone. */
    void run() throws IOException {
        try {
            agreed = new NbdHandshake(in, this::send, export).run();
            while (agreed.begins() && one()) {
                continue;
            }
        } catch (EOFException gone) {
            // it left without a word
        }
    }

    private void send(ByteBuffer... what) throws IOException {
        while (Arrays.stream(what).anyMatch(ByteBuffer::hasRemaining)) {
            channel.write(what);
        }
    }

    private record Request(int flags, int type, long cookie, long offset, long length) {
    }

    /** @return whether there may be more */
    private boolean one() throws IOException {
        if (in.readInt() != Nbd.REQUEST) {
            return false;
        }
        Request asked = new Request(in.readUnsignedShort(), in.readUnsignedShort(), in.readLong(), in.readLong(),
            Integer.toUnsignedLong(in.readInt()));
        switch (asked.type) {
            case Nbd.END -> {
                return false;
            }
            case Nbd.READ -> {
                if (!export.holds(asked.offset, asked.length) || asked.length > MOST) {
                    refuse(asked, Nbd.BAD, "Nobody reads " + asked.length + " bytes at " + asked.offset + " here.");
                } else {
                    read(asked);
                }
            }
            case Nbd.BLOCK_STATUS -> {
                if (!agreed.allocation() || !export.holds(asked.offset, asked.length)) {
                    refuse(asked, Nbd.BAD, "Nothing is known of " + asked.length + " bytes at " + asked.offset + " here.");
                } else {
                    status(asked);
                }
            }
            case Nbd.WRITE -> {
                if (asked.length > MOST) {
                    return false;
                }
                in.skipNBytes(asked.length);
                refuse(asked, Nbd.NOT_PERMITTED, "It is only read.");
            }
            default -> refuse(asked, Nbd.NOT_PERMITTED, "It is only read.");
        }
        return true;
    }

    private void refuse(Request asked, int failure, String sentence) throws IOException {
        if (!agreed.chunks()) {
            send(ByteBuffer.allocate(16).putInt(Nbd.SIMPLE_REPLY).putInt(failure).putLong(asked.cookie).flip());
            return;
        }
        byte[] said = sentence.getBytes(StandardCharsets.UTF_8);
        byte[] told = Arrays.copyOf(said, Math.min(said.length, 1024));
        send(chunk(asked, Nbd.LAST, Nbd.FAILED, 6 + told.length).putInt(failure).putShort((short) told.length).put(told).flip());
    }

    /** Its head, with room behind it for that many bytes. */
    private static ByteBuffer chunk(Request asked, int flags, int kind, int length) {
        return ByteBuffer.allocate(20 + Math.min(length, 2048)).putInt(Nbd.CHUNK_REPLY).putShort((short) flags).putShort((short) kind)
            .putLong(asked.cookie).putInt(length);
    }

    private void read(Request asked) throws IOException {
        int room = agreed.chunks() ? PIECE : (int) asked.length;
        export.room().acquireUninterruptibly(room);
        try {
            if (agreed.chunks()) {
                readInChunks(asked);
            } else {
                readWhole(asked);
            }
        } finally {
            export.room().release(room);
        }
    }

    private void readWhole(Request asked) throws IOException {
        ByteBuffer all = ByteBuffer.allocate((int) asked.length);
        try {
            export.read(asked.offset, all);
        } catch (IOException failed) {
            refuse(asked, Nbd.IO, failed.getMessage());
            return;
        }
        send(ByteBuffer.allocate(16).putInt(Nbd.SIMPLE_REPLY).putInt(0).putLong(asked.cookie).flip(), all.flip());
    }

    private void readInChunks(Request asked) throws IOException {
        long end = asked.offset + asked.length;
        byte[] piece = new byte[(int) Math.min(PIECE, asked.length)];
        for (long at = asked.offset; at < end;) {
            Sparse.Stretch stretch = export.stretch(at, end - at);
            if (stretch.zeros()) {
                send(chunk(asked, 0, Nbd.HOLE, 12).putLong(at).putInt((int) (stretch.endBytes() - at)).flip());
                at = stretch.endBytes();
                continue;
            }
            int length = (int) Math.min(piece.length, stretch.endBytes() - at);
            ByteBuffer content = ByteBuffer.wrap(piece, 0, length);
            try {
                export.read(at, content);
            } catch (IOException failed) {
                refuse(asked, Nbd.IO, String.valueOf(failed.getMessage()));
                return;
            }
            send(chunk(asked, 0, Nbd.DATA, 8 + length).putLong(at).flip(), content.flip());
            at += length;
        }
        send(chunk(asked, Nbd.LAST, Nbd.NOTHING, 0).flip());
    }

    private void status(Request asked) throws IOException {
        long end = asked.offset + asked.length;
        int most = (asked.flags & Nbd.ONE_STRETCH) != 0 ? 1 : MOST_STRETCHES;
        ByteBuffer stretches = ByteBuffer.allocate(8 * MOST_STRETCHES);
        long at = asked.offset;
        for (int i = 0; i < most && at < end; i++) {
            Sparse.Stretch stretch = export.stretch(at, end - at);
            stretches.putInt((int) (stretch.endBytes() - at)).putInt(stretch.zeros() ? Nbd.ZEROS_NOT_STORED : 0);
            at = stretch.endBytes();
        }
        stretches.flip();
        send(chunk(asked, Nbd.LAST, Nbd.STATUS, 4 + stretches.remaining()).putInt(Nbd.ALLOCATION_ID).flip(), stretches);
    }
}
