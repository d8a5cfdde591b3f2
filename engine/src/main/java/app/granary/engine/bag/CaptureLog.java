package app.granary.engine.bag;

import app.granary.core.image.BadStretch;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;

/**
 * What a capture under way writes beside its folder so that it can be carried on: lines of text, each complete once its line feed is there.
 * After a head of one line, {@code f STORED CRC STATE} for a frame, {@code z COUNT STORED CRC} for frames of zeros, {@code b START SIZE}
 * for sectors that could not be read, {@code p BYTES STORED} for a part that has ended, {@code s BYTES} for how many bytes of frames are
 * surely on the device. Removed once the bag has its name. Safe for two threads.
 */
final class CaptureLog implements Closeable {
    private static final String ENDING = ".log";

    private final FileChannel channel;
    private final PartialLock lock;
    private final StringBuilder lines = new StringBuilder();

    private CaptureLog(FileChannel channel, PartialLock lock) {
        this.channel = channel;
        this.lock = lock;
    }

    /** Where the log of a capture under way lies. */
    static Path of(Path partial) {
        return partial.resolveSibling(partial.getFileName() + ENDING);
    }

    /** Where it is written anew while a capture is carried on. */
    static Path fresh(Path partial) {
        return partial.resolveSibling(partial.getFileName() + ENDING + ".new");
    }

    /** The lock is given back when the log is closed. */
    static CaptureLog begin(Path partial, Begun begun, PartialLock lock) throws IOException {
        CaptureLog log = new CaptureLog(
            FileChannel.open(of(partial), StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE), lock);
        log.line(begun.line());
        log.handOver();
        log.channel.force(true);
        return log;
    }

    /** Carries on with what is kept of an earlier try: the log is written anew and put in the place of the old one. */
    static CaptureLog carryOn(Path partial, Begun begun, UnfinishedCut cut, PartialLock lock) throws IOException {
        Path fresh = fresh(partial);
        CaptureLog log = new CaptureLog(
            FileChannel.open(fresh, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE), lock);
        log.line(begun.line());
        int told = 0;
        long safe = 0;
        for (Unfinished.Row row : cut.rows()) {
            while (told < row.badBefore()) {
                log.bad(cut.bad().get(told++));
            }
            if (row.zeros()) {
                log.zeros(row.count(), row.storedBytes(), row.crc());
            } else {
                log.frame(row.storedBytes(), row.crc(), row.stateCrc());
            }
            safe += row.count() * row.storedBytes();
        }
        for (ImageDescription.Part part : cut.ended()) {
            log.line("p " + part.bytes() + " " + part.storedBytes());
        }
        log.safe(begun.encrypted() ? 0 : safe);
        Files.move(fresh, of(partial), StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        return log;
    }

    private void line(String text) {
        lines.append(text).append('\n');
    }

    synchronized void frame(int storedBytes, int crc, int stateCrc) {
        line("f " + storedBytes + " " + Integer.toUnsignedString(crc) + " " + Integer.toUnsignedString(stateCrc));
    }

    synchronized void zeros(long count, int storedBytes, int crc) {
        line("z " + count + " " + storedBytes + " " + Integer.toUnsignedString(crc));
    }

    synchronized void bad(BadStretch stretch) {
        line("b " + stretch.startBytes() + " " + stretch.sizeBytes());
    }

    synchronized void partEnded(ImageDescription.Part part) throws IOException {
        line("p " + part.bytes() + " " + part.storedBytes());
        handOver();
        channel.force(false);
    }

    synchronized void safe(long bytes) throws IOException {
        line("s " + bytes);
        handOver();
        channel.force(false);
    }

    /** Hands all lines to the operating system. */
    synchronized void handOver() throws IOException {
        ByteBuffer out = ByteBuffer.wrap(lines.toString().getBytes(StandardCharsets.US_ASCII));
        lines.setLength(0);
        while (out.hasRemaining()) {
            channel.write(out);
        }
    }

    @Override
    public void close() throws IOException {
        try {
            channel.close();
        } finally {
            lock.close();
        }
    }
}
