package app.granary.engine.restore;

import app.granary.core.fault.Fault;
import app.granary.core.proof.ProofLevel;
import app.granary.core.proof.CheckOutcome;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.FrameReader;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.codec.Chunks;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.BlockTarget;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.nio.ByteBuffer;

/** One restore: decodes every frame, compares its checksum, and writes it where it came from. */
public final class Restore {
    private Restore() {
    }

    /** Opens the target once the image's length is known. */
    public interface TargetOpener {
        BlockTarget open(long diskBytes) throws IOException;
    }

    /**
     * @return the length of the restored disk in bytes
     * @throws app.granary.core.fault.FaultException when the image is damaged; a file then never gets its final name, a device is left as it was
     *     unless the damage appeared between the check and the writing
     */
    public static long run(Bag bag, TargetOpener opener, Watch watch) throws IOException {
        ImageJson.Content content = bag.content();
        long diskBytes = content.description().disk().sizeBytes();
        try (BlockTarget target = opener.open(diskBytes)) {
            if (!target.startsAsZeros()) {
                requireSound(bag, watch); // what is overwritten is gone, so the image is proven first
            }
            try (FrameReader reader = new FrameReader(bag, content, Progress.Stage.RESTORING, watch)) {
                reader.read(frame -> {
                    if (!frame.sound()) {
                        throw damaged(content.description().name(), frame.chunk(), frame.fault());
                    }
                    if (target.startsAsZeros() && Chunks.isZero(frame.raw(), frame.rawBytes())) {
                        return;
                    }
                    for (long i = 0; i < frame.count(); i++) {
                        target.write((frame.chunk() + i) * Chunks.BYTES, ByteBuffer.wrap(frame.raw(), 0, frame.rawBytes()));
                    }
                });
            }
            target.finish();
        }
        return diskBytes;
    }

    private static void requireSound(Bag bag, Watch watch) throws IOException {
        CheckOutcome outcome = Verification.run(bag, ProofLevel.READABLE, watch);
        if (!outcome.ok()) {
            throw Fault.of(Fault.Kind.DAMAGED, bag.folder().toString(), "The image is damaged, so the disk was not touched: "
                + outcome.problems().get(0).message()).asException();
        }
    }

    private static IOException damaged(String image, long chunk, String why) {
        long at = chunk * Chunks.BYTES;
        return Fault.damaged(image, at, "", "", "The image " + image + " is damaged at byte " + at + " of the disk: " + why
            + ". The file was not completed. Check the image, and use another copy.").asException();
    }
}
