package app.granary.engine.media;

import app.granary.core.disk.Extents;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/** A copy of a disk that holds only what Granary would read; all else is zeros. */
final class Zeroed {
    private Zeroed() {
    }

    static void copy(Path disk, Extents toRead, Path to) throws IOException {
        try (FileChannel from = FileChannel.open(disk, StandardOpenOption.READ);
            FileChannel into = FileChannel.open(to, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING,
                StandardOpenOption.WRITE)) {
            if (from.size() > 0) {
                into.write(ByteBuffer.allocate(1), from.size() - 1);
            }
            for (int i = 0; i < toRead.count(); i++) {
                into.position(toRead.start(i));
                from.transferTo(toRead.start(i), toRead.end(i) - toRead.start(i), into);
            }
        }
    }

    /** Whether a file holds {@code part} from the start of some sector on. */
    static boolean contains(Path file, byte[] part) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            ByteBuffer whole = channel.map(FileChannel.MapMode.READ_ONLY, 0, channel.size());
            ByteBuffer wanted = ByteBuffer.wrap(part);
            for (int at = 0; at + part.length <= whole.limit(); at += 512) {
                if (whole.get(at) == part[0] && whole.slice(at, part.length).equals(wanted)) {
                    return true;
                }
            }
            return false;
        }
    }
}
