package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.fault.Fault;
import app.granary.core.measure.Sizes;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.FrameIndex;
import app.granary.engine.bag.ImageDescription;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.codec.Chunks;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.FileTarget;
import app.granary.engine.source.RawSource;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** A restore for practice: the image goes through the code of a real one onto a scratch file, which is then read back and compared with the chunk index. */
public final class Rehearsal {
    private Rehearsal() {
    }

    /**
     * @param scratch an existing folder with room for what the disk holds; nothing is left in it
     * @return what the check up to readable found, or, when that was nothing, what the comparison found
     * @throws app.granary.core.fault.FaultException when there is no room to rehearse in, or the image cannot be opened
     */
    public static CheckOutcome run(Bag bag, Path scratch, Watch watch) throws IOException {
        ImageJson.Content content = bag.content();
        long room = Files.getFileStore(scratch).getUsableSpace();
        if (room < content.description().usedBytes()) {
            throw Fault.of(Fault.Kind.NO_ROOM, scratch.toString(), "Rehearsing needs " + Sizes.decimal(content.description().usedBytes()) + " of scratch room, and " + scratch
                + " has " + Sizes.decimal(room) + " free. Make room there, or check the image up to readable.").asException();
        }
        CheckOutcome read = Verification.run(bag, ProofLevel.READABLE, watch);
        if (!read.ok()) {
            return read;
        }
        Path file = Files.createTempDirectory(scratch, "rehearsal-").resolve("disk.img");
        try {
            Restore.run(bag, bytes -> FileTarget.create(file, bytes), watch);
            return new CheckOutcome(ProofLevel.REHEARSED, compare(file, content, watch), read.readBytes() * 2);
        } finally {
            Files.deleteIfExists(file);
            Files.deleteIfExists(file.getParent());
        }
    }

    private static List<Problem> compare(Path file, ImageJson.Content content, Watch watch) throws IOException {
        ImageDescription description = content.description();
        FrameIndex index = content.index();
        List<Problem> problems = new ArrayList<>();
        byte[] raw = new byte[Chunks.BYTES];
        try (BlockSource restored = RawSource.open(file)) {
            for (long chunk = 0; chunk < index.chunks(); chunk++) {
                if (chunk % 64 == 0) {
                    watch.requireGoingOn(description.name());
                    watch.advanced(new Progress(Progress.Stage.COMPARING, chunk * Chunks.BYTES, restored.sizeBytes(), 0));
                }
                long at = chunk * Chunks.BYTES;
                int length = Chunks.length(chunk, restored.sizeBytes());
                restored.read(at, ByteBuffer.wrap(raw, 0, length));
                if (Chunks.crc(raw, length) != index.crc(index.rowOf(chunk))) {
                    problems.add(new Problem("data/image.json", 0, 0, description.partitionsWithin(at, at + length), at, at + length, "What was restored differs from what was read of the disk at bytes "
                        + at + " to " + (at + length - 1) + " (" + description.partitionsWithin(at, at + length) + "). Do not rely on this image; capture the disk again."));
                }
            }
        }
        return problems;
    }
}
