package app.granary.engine.verify;

import app.granary.core.proof.Problem;
import app.granary.engine.bag.Frame;
import app.granary.engine.bag.FrameIndex;
import app.granary.engine.bag.ImageDescription;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.codec.Chunks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** Gathers frames that are not sound and turns them into problems that name byte range and partition. Safe for several threads. */
final class Damage {
    private final ImageDescription description;
    private final FrameIndex index;
    private final List<Frame> frames = new ArrayList<>();

    Damage(ImageJson.Content content) {
        this.description = content.description();
        this.index = content.index();
    }

    synchronized void add(Frame frame) {
        // the buffer belongs to the reader and is not kept
        frames.add(new Frame(frame.chunk(), frame.count(), frame.part(), frame.offsetBytes(), frame.storedBytes(), new byte[0],
            frame.rawBytes(), frame.fault()));
    }

    boolean isPart(String path) {
        return description.parts().stream().anyMatch(part -> path.equals("data/" + part.name()));
    }

    /** One problem for each run of bad frames that follow each other in a part. */
    synchronized List<Problem> problems() {
        frames.sort(Comparator.comparingLong(Frame::chunk));
        List<Problem> out = new ArrayList<>();
        for (int i = 0; i < frames.size(); i++) {
            Frame first = frames.get(i);
            Frame last = first;
            while (i + 1 < frames.size() && frames.get(i + 1).chunk() == last.chunk() + 1 && frames.get(i + 1).part() == first.part()) {
                last = frames.get(++i);
            }
            String part = "data/" + description.parts().get(first.part()).name();
            long length = last.offsetBytes() + last.storedBytes() - first.offsetBytes();
            long from = first.chunk() * Chunks.BYTES;
            long to = last.chunk() * Chunks.BYTES + last.rawBytes();
            String where = description.partitionsWithin(from, to);
            String onward = first.offsetBytes() + length > description.parts().get(first.part()).bytes() ? ", into the part after it" : "";
            String counted = description.encrypted() ? " of its decrypted content" : "";
            out.add(new Problem(part, first.offsetBytes(), length, where, from, to,
                part + " is damaged from byte " + first.offsetBytes() + counted + " on, " + length
                    + " bytes" + onward + ": " + first.fault() + ". It holds bytes " + from + " to " + (to - 1) + " of the disk (" + where
                    + "); the rest of the image is checked on its own. Repair it from another copy, or capture the disk again."));
        }
        return out;
    }

    /** Whether a stretch of bad frames, which begins in one part, goes on into another: what is wrong with that one is told by it then. */
    boolean reaches(Problem problem, String path) {
        if (!isPart(problem.part()) || problem.lengthBytes() == 0) {
            return false;
        }
        long from = startOf(problem.part()) + problem.offsetBytes();
        long start = startOf(path);
        long bytes = description.parts().stream().filter(part -> path.equals("data/" + part.name())).mapToLong(ImageDescription.Part::bytes)
            .sum();
        return from < start + bytes && from + problem.lengthBytes() > start;
    }

    private long startOf(String path) {
        return description.parts().stream().takeWhile(part -> !path.equals("data/" + part.name())).mapToLong(ImageDescription.Part::bytes)
            .sum();
    }

    Problem missing(String path) {
        Range range = rangeOf(path, 0);
        return new Problem(path, 0, 0, range.partitions, range.from, range.to,
            path + " is missing. It holds bytes " + range.from + " to " + (range.to - 1) + " of the disk ("
                + range.partitions + "). Bring it back from another copy, or capture the disk again.");
    }

    Problem cut(ImageDescription.Part part, long found) {
        String path = "data/" + part.name();
        Range range = rangeOf(path, found);
        return new Problem(path, found, part.storedBytes() - found, range.partitions, range.from, range.to,
            path + " is cut short: it ends at byte " + found + " instead of "
                + part.storedBytes() + ". Bytes " + range.from + " to " + (range.to - 1) + " of the disk (" + range.partitions
                + ") are lost in it.");
    }

    /** A part whose bytes differ though every frame in it decodes to what was read: some bits of a frame stand for nothing. */
    Problem harmless(String path, String why) {
        return new Problem(path, 0, storedBytes(path), "",
            path + " is not as it was written: " + why
                + ". Every frame in it decodes all the same to what was read, so nothing of the disk is lost; "
                + "repair it from another copy, and look after the drive.");
    }

    private long storedBytes(String path) {
        return description.parts().stream().filter(part -> path.equals("data/" + part.name())).findFirst().orElseThrow().storedBytes();
    }

    Problem wholePart(String path, String why) {
        Range range = rangeOf(path, 0);
        long length = storedBytes(path);
        return new Problem(path, 0, length, range.partitions, range.from, range.to,
            path + " is not as it was written: " + why + ". It holds bytes " + range.from + " to "
                + (range.to - 1) + " of the disk (" + range.partitions + ").");
    }

    private record Range(long from, long to, String partitions) {
    }

    /** The stretch of disk whose frames lie in a part from {@code offset} on. */
    private Range rangeOf(String path, long offset) {
        long start = 0;
        long end = 0;
        for (ImageDescription.Part part : description.parts()) {
            end = start + part.bytes();
            if (path.equals("data/" + part.name())) {
                break;
            }
            start = end;
        }
        long from = chunkAt(start + offset) * Chunks.BYTES;
        long to = Math.min(description.disk().sizeBytes(), (chunkAt(Math.max(start, end - 1)) + 1) * Chunks.BYTES);
        return new Range(from, to, description.partitionsWithin(from, to));
    }

    private long chunkAt(long storedOffset) {
        long at = 0;
        for (int row = 0; row < index.rows(); row++) {
            long length = index.count(row) * index.storedBytes(row);
            if (storedOffset < at + length) {
                return index.firstChunk(row) + (storedOffset - at) / index.storedBytes(row);
            }
            at += length;
        }
        return Math.max(0, index.chunks() - 1);
    }
}
