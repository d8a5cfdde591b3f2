package app.granary.engine.source;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;

/** Whole writes, where the operating system may take only a piece. */
final class Channels {
    private Channels() {
    }

    static void writeFully(FileChannel channel, long offsetBytes, ByteBuffer content) throws IOException {
        long at = offsetBytes;
        while (content.hasRemaining()) {
            at += channel.write(content, at);
        }
    }
}
