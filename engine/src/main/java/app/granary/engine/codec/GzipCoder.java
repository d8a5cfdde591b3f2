package app.granary.engine.codec;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;

/** One gzip member per chunk (RFC 1952, section 2.2: members simply follow each other). */
final class GzipCoder implements FrameCoder {
    private final int level;

    GzipCoder(int level) {
        this.level = level;
    }

    @Override
    public int encode(byte[] chunk, int length, byte[] frame) throws IOException {
        StreamFrames.Into into = new StreamFrames.Into(frame);
        try (Leveled out = new Leveled(into, level)) {
            out.write(chunk, 0, length);
        }
        return into.count();
    }

    @Override
    public void decode(byte[] frame, int frameLength, byte[] chunk, int length) throws IOException {
        try (GZIPInputStream in = open(frame, frameLength)) {
            StreamFrames.readFully(in, chunk, length);
        }
    }

    private static GZIPInputStream open(byte[] frame, int frameLength) throws BadFrameException {
        try {
            return new GZIPInputStream(new ByteArrayInputStream(frame, 0, frameLength), 64 * 1024);
        } catch (IOException broken) {
            throw new BadFrameException("it is no gzip member (" + broken.getMessage() + ")");
        }
    }

    private static final class Leveled extends GZIPOutputStream {
        Leveled(StreamFrames.Into into, int level) throws IOException {
            super(into, 64 * 1024);
            def.setLevel(level);
        }
    }
}
