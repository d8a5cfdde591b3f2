package app.granary.engine.capture;

import app.granary.core.disk.BlockSource;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.image.BadStretch;
import app.granary.engine.bag.BagWriter;
import app.granary.engine.bag.Begun;
import app.granary.engine.codec.Chunks;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/**
 * Whether a disk is at the end of its capture what it was at the beginning. An image of a disk that was written to meanwhile is torn: part
 * of it is of one moment and part of another, and every check of it against itself passes.
 */
final class Unchanged {
    private Unchanged() {
    }

    /**
     * Asked when all has been read: what happens to the disk after that is no fault of the image.
     *
     * @param survey of the beginning
     * @param bag    what was read; chunks with stretches that could not be read are not compared, since what those give may differ from one
     *               time to the next
     * @throws FaultException when the disk has changed
     */
    static void require(CarefulSource source, DiskSurvey survey, BagWriter bag) throws IOException {
        try {
            boolean same = Begun.digestOf(now(source, survey)).equals(Begun.digestOf(survey));
            // a disk that fails gives zeros for what it cannot read this time, and its tables may look like others for that
            if (!same && !source.hasBadSectors()) {
                throw torn(source, "its tables or its maps of used blocks are not what they were");
            }
            compareChunks(source, survey, bag);
        } catch (FaultException told) {
            if (told.fault().kind() != Fault.Kind.DEVICE_FAILED) {
                throw told;
            } // it was read whole before it failed, and held all the while; what was read of it may be all that is left
        }
    }

    private static void compareChunks(CarefulSource source, DiskSurvey survey, BagWriter bag) throws IOException {
        List<BadStretch> bad = bag.badSectors();
        ChunkReader reader = new ChunkReader(source, survey.toRead());
        byte[] raw = new byte[Chunks.BYTES];
        for (long chunk : StateSample.atTheEnd(survey, bag.index())) {
            long start = chunk * Chunks.BYTES;
            if (bad.stream().anyMatch(each -> each.startBytes() < start + Chunks.BYTES && each.startBytes() + each.sizeBytes() > start)) {
                continue;
            }
            List<BadStretch> nowBad = new ArrayList<>();
            int length = reader.read(chunk, raw, nowBad);
            if (nowBad.isEmpty() && !bag.isOf(chunk, raw, length)) {
                throw torn(source, "what lies about byte " + start + " is not what was read there");
            }
        }
    }

    private static DiskSurvey now(BlockSource source, DiskSurvey before) throws IOException {
        try {
            return DiskSurvey.of(source, before.choice());
        } catch (FaultException notReadable) {
            if (notReadable.fault().kind() == Fault.Kind.DEVICE_FAILED) {
                throw notReadable;
            }
            throw torn(source, "it cannot be surveyed any more: " + notReadable.getMessage());
        }
    }

    private static IOException torn(BlockSource source, String how) {
        return Fault.of(Fault.Kind.FORBIDDEN, source.name(), source.name() + " changed while it was read: " + how
            + ". No image was made, and what was written was removed, since part of it would be of one"
            + " moment and part of another. Unmount the disk, or start its computer from rescue media, and capture it again.")
            .asException();
    }
}
