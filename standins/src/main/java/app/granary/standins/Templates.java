package app.granary.standins;

import app.granary.engine.codec.Chunks;
import com.github.luben.zstd.ZstdInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;

/** Turns a template into a raw disk file, once; untouched stretches stay holes. */
final class Templates {
    private static final int PIECE = Chunks.BYTES;

    private Templates() {
    }

    static Path disk(StandInDisk disk, Path folder) throws IOException {
        Path file = folder.resolve(disk.template() + ".img");
        if (Files.exists(file) && Files.size(file) == disk.realBytes()) {
            return file;
        }
        Path partial = folder.resolve(disk.template() + ".partial");
        try (InputStream packed = Templates.class.getResourceAsStream("/office/" + disk.template() + ".img.zst");
            InputStream in = new ZstdInputStream(packed);
            FileChannel out = FileChannel.open(partial, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING,
                StandardOpenOption.WRITE)) {
            byte[] piece = new byte[PIECE];
            long at = 0;
            for (int length = in.readNBytes(piece, 0, PIECE); length > 0; length = in.readNBytes(piece, 0, PIECE)) {
                MadeUpContent.fill(piece, length, at);
                if (!Chunks.isZero(piece, length) || at + length == disk.realBytes()) {
                    out.write(ByteBuffer.wrap(piece, 0, length), at);
                }
                at += length;
            }
            if (at != disk.realBytes()) {
                throw new IOException("template " + disk.template() + " is " + at + " bytes instead of " + disk.realBytes());
            }
        }
        return Files.move(partial, file, StandardCopyOption.ATOMIC_MOVE);
    }

}
