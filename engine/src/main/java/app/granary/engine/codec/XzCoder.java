package app.granary.engine.codec;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import org.tukaani.xz.LZMA2Options;
import org.tukaani.xz.XZ;
import org.tukaani.xz.XZInputStream;
import org.tukaani.xz.XZOutputStream;

/** One xz stream per chunk. The dictionary never exceeds a chunk, which keeps a coder to about 12 MiB. */
final class XzCoder implements FrameCoder {
    private static final int DICTIONARY = 1 << 20;
    private static final int MEMORY_LIMIT_KIB = 8 * 1024;

    private final int level;

    XzCoder(int level) {
        this.level = level;
    }

    @Override
    public int encode(byte[] chunk, int length, byte[] frame) throws IOException {
        LZMA2Options options = new LZMA2Options(level);
        options.setDictSize(Math.min(options.getDictSize(), DICTIONARY));
        StreamFrames.Into into = new StreamFrames.Into(frame);
        try (XZOutputStream out = new XZOutputStream(into, options, XZ.CHECK_CRC64)) {
            out.write(chunk, 0, length);
        }
        return into.count();
    }

    @Override
    public void decode(byte[] frame, int frameLength, byte[] chunk, int length) throws IOException {
        try (XZInputStream in = open(frame, frameLength)) {
            StreamFrames.readFully(in, chunk, length);
        }
    }

    private static XZInputStream open(byte[] frame, int frameLength) throws BadFrameException {
        try {
            return new XZInputStream(new ByteArrayInputStream(frame, 0, frameLength), MEMORY_LIMIT_KIB);
        } catch (IOException broken) {
            throw new BadFrameException("it is no xz stream (" + broken.getMessage() + ")");
        }
    }
}
