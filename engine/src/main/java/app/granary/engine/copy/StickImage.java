package app.granary.engine.copy;

import app.granary.core.disk.BlockSource;
import app.granary.core.fault.Fault;
import app.granary.core.image.BadStretch;
import app.granary.core.image.ImageName;
import app.granary.engine.bag.Digests;
import app.granary.engine.capture.CarefulSource;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.Folders;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.util.HexFormat;
import java.util.List;

/**
 * Keeps a stick byte for byte in a file, so that others like it can be written when it wears out. Every sector is read; runs of zeros take
 * no room. The file has its name only once it was read back and is what was read of the stick.
 *
 * @param bytes  length of the stick
 * @param sha256 of all of it, 64 hexadecimal digits
 * @param bad    what could not be read; when there is any, no file is kept: half a rescue system starts nothing
 */
public record StickImage(long bytes, String sha256, List<BadStretch> bad) {
    private static final int PIECE = 1 << 20;

    public StickImage {
        bad = List.copyOf(bad);
    }

    /**
     * @param folder for the file, which exists
     * @param name   of the file; what had that name before is replaced once the new one is whole
     */
    public static StickImage keep(BlockSource stick, Path folder, String name, Watch watch) throws IOException {
        Path partial = folder.resolve(name + ImageName.PARTIAL);
        CarefulSource careful = new CarefulSource(stick);
        try {
            String read = written(careful, partial, watch);
            if (!careful.bad().isEmpty()) {
                return new StickImage(stick.sizeBytes(), read, careful.bad());
            }
            String kept = digest(partial, watch);
            if (!kept.equals(read)) {
                throw Fault.of(Fault.Kind.DAMAGED, folder.toString(), folder + " gave back other bytes than were "
                    + "written to it, so the stick's image was not kept. Check that drive.").asException();
            }
            Files.move(partial, folder.resolve(name), StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
            Folders.sync(folder);
            return new StickImage(stick.sizeBytes(), read, List.of());
        } finally {
            Files.deleteIfExists(partial);
        }
    }

    private static String written(BlockSource stick, Path partial, Watch watch) throws IOException {
        MessageDigest digest = Digests.sha256();
        ByteBuffer piece = ByteBuffer.allocate(PIECE);
        ByteBuffer zeros = ByteBuffer.allocate(PIECE);
        try (FileChannel out = FileChannel.open(partial, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING,
            StandardOpenOption.WRITE)) {
            for (long at = 0; at < stick.sizeBytes(); at += piece.limit()) {
                watch.requireGoingOn(stick.name());
                piece.clear().limit((int) Math.min(PIECE, stick.sizeBytes() - at));
                stick.read(at, piece);
                digest.update(piece.flip().duplicate());
                boolean last = at + piece.limit() == stick.sizeBytes();
                if (last || !piece.equals(zeros.duplicate().limit(piece.limit()))) { // the last gives the file its length
                    while (piece.hasRemaining()) {
                        out.write(piece, at + piece.position());
                    }
                }
                watch.advanced(new Progress(Progress.Stage.COPYING, at + piece.limit(), stick.sizeBytes(), at + piece.limit()));
            }
            out.force(true);
        }
        return HexFormat.of().formatHex(digest.digest());
    }

    /** SHA-256 of a file, 64 hexadecimal digits. */
    public static String digest(Path file, Watch watch) throws IOException {
        MessageDigest digest = Digests.sha256();
        ByteBuffer piece = ByteBuffer.allocate(PIECE);
        long total = Files.size(file);
        try (FileChannel in = FileChannel.open(file, StandardOpenOption.READ)) {
            for (long at = 0; in.read(piece.clear()) >= 0; at += piece.limit()) {
                watch.requireGoingOn(file.getFileName().toString());
                digest.update(piece.flip());
                watch.advanced(new Progress(Progress.Stage.CHECKING, at + piece.limit(), total, 0));
            }
        }
        return HexFormat.of().formatHex(digest.digest());
    }
}
