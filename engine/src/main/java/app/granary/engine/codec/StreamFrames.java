package app.granary.engine.codec;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;

/** Frames of codecs that come as streams. */
final class StreamFrames {
    private StreamFrames() {
    }

    static void readFully(InputStream in, byte[] chunk, int length) throws IOException {
        int count;
        try {
            count = in.readNBytes(chunk, 0, length);
            if (count == length && in.read() < 0) {
                return;
            }
        } catch (IOException broken) {
            throw new BadFrameException("it does not decode (" + broken.getMessage() + ")");
        }
        throw new BadFrameException(
            count < length ? "it decodes to " + count + " bytes instead of " + length : "it decodes to more than " + length + " bytes");
    }

    /** Writes into a fixed array; a frame that outgrows it is a programming mistake. */
    static final class Into extends OutputStream {
        private final byte[] frame;
        private int count;

        Into(byte[] frame) {
            this.frame = frame;
        }

        int count() {
            return count;
        }

        @Override
        public void write(int value) {
            frame[count++] = (byte) value;
        }

        @Override
        public void write(byte[] from, int offset, int length) {
            System.arraycopy(from, offset, frame, count, length);
            count += length;
        }
    }
}
