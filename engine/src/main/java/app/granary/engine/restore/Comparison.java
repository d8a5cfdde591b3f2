package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionTables;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.proof.Problem;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.FrameIndex;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.bag.ImageSource;
import app.granary.engine.codec.Chunks;
import app.granary.engine.progress.OrderedWork;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;

/**
 * Reads a restored target back. A chunk that is there as a whole is held against its checksum; of one that is there in part, or was patched, what is there is held
 * against the image.
 */
final class Comparison {
    private static final int AT_ONCE = 16;
    private static final int MOST = 100;

    private final Bag bag;
    private final ImageJson.Content content;
    private final Pieces pieces;
    private final List<Patch> patches;
    private final Extents used;
    private final boolean everything;
    private final List<Problem> passedOver;
    private final Watch watch;
    private final long diskBytes;

    /** @param everything whether unused blocks were written too, or were zeros before */
    Comparison(Bag bag, ImageJson.Content content, Pieces pieces, List<Patch> patches, Extents used, boolean everything, List<Problem> passedOver, Watch watch) {
        this.bag = bag;
        this.content = content;
        this.pieces = pieces;
        this.patches = patches;
        this.used = used;
        this.everything = everything;
        this.passedOver = passedOver;
        this.watch = watch;
        this.diskBytes = content.description().disk().sizeBytes();
    }

    private final class Reader implements AutoCloseable {
        final byte[] there = new byte[Chunks.BYTES];
        final byte[] meant = new byte[Chunks.BYTES];
        private ImageSource image;

        ImageSource image() throws IOException {
            if (image == null) {
                image = new ImageSource(bag, content);
            }
            return image;
        }

        @Override
        public void close() throws IOException {
            if (image != null) {
                image.close();
            }
        }
    }

    List<Problem> run(BlockSource restored, RestoreLayout layout) throws IOException {
        List<Problem> out = new ArrayList<>();
        // an encrypted image can only be read onwards, so one reader goes through it; of others, many read at once
        boolean onwards = content.description().encrypted();
        try (Reader only = new Reader(); OrderedWork<List<Problem>> work = new OrderedWork<>("granary-compare")) {
            long chunks = content.index().chunks();
            for (long chunk = 0; chunk < chunks; chunk += AT_ONCE) {
                watch.requireGoingOn(content.description().name());
                watch.advanced(new Progress(Progress.Stage.COMPARING, chunk * Chunks.BYTES, diskBytes, 0));
                long first = chunk;
                long end = Math.min(chunks, first + AT_ONCE);
                if (onwards) {
                    out.addAll(compare(restored, only, first, end));
                } else {
                    if (work.underWay() >= work.slots()) {
                        out.addAll(work.takeOldest());
                    }
                    work.submit(() -> compare(restored, first, end));
                }
            }
            while (work.underWay() > 0) {
                out.addAll(work.takeOldest());
            }
        }
        for (Patch patch : Patches.lost(patches, restored)) {
            out.add(problem(0, 0, "What Granary wrote at byte " + patch.offsetBytes() + " of the target, for its new place or size, reads back as something else. Do not rely on this disk."));
        }
        table(restored, layout, out);
        return out.subList(0, Math.min(MOST, out.size()));
    }

    private static void table(BlockSource restored, RestoreLayout layout, List<Problem> out) throws IOException {
        boolean any = layout.table() instanceof PartitionTable.Gpt || layout.table() instanceof PartitionTable.Mbr;
        if (any && !inOrder(PartitionTables.read(restored)).equals(inOrder(layout.table()))) {
            out.add(problem(0, 0, "The partition table on the target is not the one planned. Do not rely on this disk."));
        }
    }

    private static List<Partition> inOrder(PartitionTable table) {
        return table.partitions().stream().sorted(Comparator.comparingInt(Partition::number)).toList();
    }

    private static Problem problem(long from, long to, String message) {
        return new Problem("", 0, 0, "", from, to, message);
    }

    private List<Problem> compare(BlockSource restored, long first, long end) throws IOException {
        try (Reader own = new Reader()) {
            return compare(restored, own, first, end);
        }
    }

    private List<Problem> compare(BlockSource restored, Reader reader, long first, long end) throws IOException {
        List<Problem> out = new ArrayList<>();
        for (long chunk = first; chunk < end; chunk++) {
            long at = chunk * Chunks.BYTES;
            int length = Chunks.length(chunk, diskBytes);
            long there = pieces.bytesWithin(at, at + length);
            if (there == 0 || passedOver.stream().anyMatch(each -> each.diskStartBytes() == at)) {
                continue;
            }
            boolean whole = there == length && (everything || used.bytesWithin(at, at + length) == length) && !patched(at, length);
            if (!(whole ? sameChecksum(restored, reader, chunk, length) : sameBytes(restored, reader, at, length))) {
                String where = content.description().partitionsWithin(at, at + length);
                out.add(problem(at, at + length, "What was restored differs from what was read of the disk at bytes " + at + " to " + (at + length - 1) + " of the disk (" + where + "). Do not rely on this disk; its medium may be failing."));
            }
        }
        return out;
    }

    private boolean patched(long at, int length) throws IOException {
        boolean[] found = {false};
        pieces.within(at, at + length, (from, to, where) -> found[0] |= patches.stream().anyMatch(each -> each.offsetBytes() < where + to - from && each.endBytes() > where));
        return found[0];
    }

    private boolean sameChecksum(BlockSource restored, Reader reader, long chunk, int length) throws IOException {
        long at = chunk * Chunks.BYTES;
        pieces.within(at, at + length, (from, to, where) -> restored.read(where, ByteBuffer.wrap(reader.there, (int) (from - at), (int) (to - from))));
        FrameIndex index = content.index();
        return Chunks.crc(reader.there, length) == index.crc(index.rowOf(chunk));
    }

    private boolean sameBytes(BlockSource restored, Reader reader, long at, int length) throws IOException {
        reader.image().read(at, ByteBuffer.wrap(reader.meant, 0, length));
        boolean[] same = {true};
        pieces.within(at, at + length, (from, to, where) -> {
            int start = (int) (from - at);
            restored.read(where, ByteBuffer.wrap(reader.there, start, (int) (to - from)));
            Patches.hide(patches, where, reader.meant, reader.there, start, (int) (to - from));
            if (everything) {
                same[0] &= Arrays.equals(reader.there, start, (int) (to - at), reader.meant, start, (int) (to - at));
                return;
            }
            for (int i = used.firstEndingAfter(from); i < used.count() && used.start(i) < to; i++) {
                int left = (int) (Math.max(from, used.start(i)) - at);
                int right = (int) (Math.min(to, used.end(i)) - at);
                same[0] &= Arrays.equals(reader.there, left, right, reader.meant, left, right);
            }
        });
        return same[0];
    }
}
