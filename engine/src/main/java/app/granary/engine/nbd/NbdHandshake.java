package app.granary.engine.nbd;

import java.io.DataInputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What server and reader agree on before anything is read. */
final class NbdHandshake {
    private static final int LONGEST_OPTION = 64 << 10;
    private static final int MOST_OPTIONS = 256;
    private static final int SMALLEST = 1;
    private static final int PREFERRED = 64 << 10;
    static final int OLD_PADDING = 124;

    private final DataInputStream in;
    private final Out out;
    private final NbdExport export;
    private boolean chunks;
    private boolean allocation;
    private boolean padded;

    /** Where answers go, all of each. */
    interface Out {
        void send(ByteBuffer... what) throws IOException;
    }

    /**
     * @param begins     whether reading begins
     * @param chunks     whether answers come in chunks
     * @param allocation whether it may be asked what is stored
     */
    record Agreed(boolean begins, boolean chunks, boolean allocation) {
    }

    NbdHandshake(DataInputStream in, Out out, NbdExport export) {
        this.in = in;
        this.out = out;
        this.export = export;
    }

    Agreed run() throws IOException {
        out.send(ByteBuffer.allocate(18).putLong(Nbd.MAGIC).putLong(Nbd.OPTION).putShort((short) (Nbd.FIXED_NEWSTYLE | Nbd.NO_ZEROES))
            .flip());
        int flags = in.readInt();
        padded = (flags & Nbd.NO_ZEROES) == 0;
        boolean known = (flags & ~(Nbd.FIXED_NEWSTYLE | Nbd.NO_ZEROES)) == 0;
        for (int i = 0; known && i < MOST_OPTIONS; i++) {
            if (in.readLong() != Nbd.OPTION) {
                break;
            }
            int option = in.readInt();
            long length = Integer.toUnsignedLong(in.readInt());
            if (length > LONGEST_OPTION) {
                break;
            }
            Optional<Boolean> end = option(option, ByteBuffer.wrap(in.readNBytes((int) length)), (int) length);
            if (end.isPresent()) {
                return new Agreed(end.get(), chunks, allocation);
            }
        }
        return new Agreed(false, false, false);
    }

    /** @return whether reading begins, once that is settled */
    private Optional<Boolean> option(int option, ByteBuffer data, int length) throws IOException {
        if (data.remaining() < length) {
            return Optional.of(false); // it left in the middle
        }
        switch (option) {
            case Nbd.EXPORT_NAME -> {
                return Optional.of(byName(StandardCharsets.UTF_8.decode(data).toString()));
            }
            case Nbd.ABORT -> {
                reply(option, Nbd.ACK, ByteBuffer.allocate(0));
                return Optional.of(false);
            }
            case Nbd.LIST -> {
                byte[] name = export.name().getBytes(StandardCharsets.UTF_8);
                reply(option, Nbd.SERVER, ByteBuffer.allocate(4 + name.length).putInt(name.length).put(name).flip());
                reply(option, Nbd.ACK, ByteBuffer.allocate(0));
            }
            case Nbd.INFO, Nbd.GO -> {
                if (about(option, data) && option == Nbd.GO) {
                    return Optional.of(true);
                }
            }
            case Nbd.STRUCTURED_REPLY -> {
                chunks = !data.hasRemaining();
                reply(option, chunks ? Nbd.ACK : Nbd.INVALID, ByteBuffer.allocate(0));
            }
            case Nbd.LIST_META_CONTEXT, Nbd.SET_META_CONTEXT -> context(option, data);
            default -> reply(option, Nbd.NOT_SUPPORTED, ByteBuffer.allocate(0));
        }
        return Optional.empty();
    }

    private void reply(int option, int answer, ByteBuffer data) throws IOException {
        ByteBuffer head = ByteBuffer.allocate(20).putLong(Nbd.OPTION_REPLY).putInt(option).putInt(answer).putInt(data.remaining()).flip();
        out.send(head, data);
    }

    /** The oldest way, which knows no answer but to hang up. */
    private boolean byName(String name) throws IOException {
        if (export.goesBy(name)) {
            out.send(ByteBuffer.allocate(10 + (padded ? OLD_PADDING : 0)).putLong(export.source().sizeBytes())
                .putShort((short) Nbd.EXPORT_FLAGS).rewind());
        }
        return export.goesBy(name);
    }

    /** A length and as many bytes of text; empty when that is not there. */
    private static Optional<String> text(ByteBuffer data) {
        if (data.remaining() < 4) {
            return Optional.empty();
        }
        int length = data.getInt();
        if (length < 0 || length > data.remaining()) {
            return Optional.empty();
        }
        byte[] bytes = new byte[length];
        data.get(bytes);
        return Optional.of(new String(bytes, StandardCharsets.UTF_8));
    }

    private boolean about(int option, ByteBuffer data) throws IOException {
        Optional<String> name = text(data);
        if (name.isEmpty() || data.remaining() < 2 || Short.toUnsignedInt(data.getShort()) * 2 != data.remaining()) {
            reply(option, Nbd.INVALID, ByteBuffer.allocate(0));
            return false;
        }
        if (!export.goesBy(name.get())) {
            reply(option, Nbd.UNKNOWN, ByteBuffer.allocate(0));
            return false;
        }
        reply(option, Nbd.ABOUT, ByteBuffer.allocate(12).putShort((short) Nbd.ABOUT_EXPORT).putLong(export.source().sizeBytes())
            .putShort((short) Nbd.EXPORT_FLAGS).flip());
        reply(option, Nbd.ABOUT, ByteBuffer.allocate(14).putShort((short) Nbd.ABOUT_BLOCK_SIZE).putInt(SMALLEST).putInt(PREFERRED)
            .putInt(NbdSession.MOST).flip());
        reply(option, Nbd.ACK, ByteBuffer.allocate(0));
        return true;
    }

    private void context(int option, ByteBuffer data) throws IOException {
        Optional<String> name = text(data);
        long count = name.isEmpty() || data.remaining() < 4 ? -1 : Integer.toUnsignedLong(data.getInt());
        List<String> asked = new ArrayList<>();
        for (long i = 0; i < count; i++) {
            Optional<String> one = text(data);
            if (one.isEmpty()) {
                count = -1;
                break;
            }
            asked.add(one.get());
        }
        boolean setting = option == Nbd.SET_META_CONTEXT;
        if (count < 0 || data.hasRemaining() || setting && !chunks) {
            reply(option, Nbd.INVALID, ByteBuffer.allocate(0));
            return;
        }
        if (!export.goesBy(name.get())) {
            reply(option, Nbd.UNKNOWN, ByteBuffer.allocate(0));
            return;
        }
        boolean wanted = asked.contains(Nbd.ALLOCATION) || !setting && (asked.isEmpty() || asked.contains("base:"));
        if (wanted) {
            byte[] bytes = Nbd.ALLOCATION.getBytes(StandardCharsets.UTF_8);
            reply(option, Nbd.META_CONTEXT, ByteBuffer.allocate(4 + bytes.length).putInt(Nbd.ALLOCATION_ID).put(bytes).flip());
        }
        allocation = setting ? wanted : allocation;
        reply(option, Nbd.ACK, ByteBuffer.allocate(0));
    }
}
