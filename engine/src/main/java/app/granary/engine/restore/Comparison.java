package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionTables;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.proof.Problem;
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
import java.util.OptionalInt;

/**
 * Reads a restored target back. A chunk that is there as a whole is held against its checksum; of one that is there in part, or was
 * patched, what is there is held against the source.
 */
final class Comparison {
    private static final int AT_ONCE = 16;
    private static final int MOST = 100;

    private final ChunkSource source;
    private final Pieces pieces;
    private final List<Patch> patches;
    private final Extents used;
    private final boolean everything;
    private final List<Problem> passedOver;
    private final Watch watch;

    /** @param everything whether unused blocks were written too, or were zeros before */
    Comparison(ChunkSource source, Pieces pieces, List<Patch> patches, boolean everything, List<Problem> passedOver, Watch watch) {
        this.source = source;
        this.pieces = pieces;
        this.patches = patches;
        this.used = source.used();
        this.everything = everything;
        this.passedOver = passedOver;
        this.watch = watch;
    }

    private static final class Reading implements AutoCloseable {
        final byte[] there = new byte[Chunks.BYTES];
        final byte[] meant = new byte[Chunks.BYTES];
        final ChunkSource.Reader source;

        Reading(ChunkSource.Reader source) {
            this.source = source;
        }

        @Override
        public void close() throws IOException {
            source.close();
        }
    }

    List<Problem> run(BlockSource restored, RestoreLayout layout) throws IOException {
        List<Problem> out = new ArrayList<>();
        boolean onwards = source.onwards();
        try (Reading only = new Reading(source.reader()); OrderedWork<List<Problem>> work = new OrderedWork<>("granary-compare")) {
            long chunks = source.count();
            for (long chunk = 0; chunk < chunks; chunk += AT_ONCE) {
                watch.requireGoingOn(source.name());
                watch.advanced(new Progress(Progress.Stage.COMPARING, chunk * Chunks.BYTES, source.sizeBytes(), 0));
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
        around(restored, layout, out);
        return out.subList(0, Math.min(MOST, out.size()));
    }

    /** The same of a target of which only what differed was written: all else was read already, and is as it is to be. */
    List<Problem> run(BlockSource restored, RestoreLayout layout, Changes changes) throws IOException {
        List<Problem> out = new ArrayList<>();
        for (long at : changes.lost(restored, patches)) {
            out.add(problem(0, 0, "What was written at byte " + at + " of the target reads back as something else. Do not rely on this "
                + "disk."));
        }
        around(restored, layout, out);
        return out.subList(0, Math.min(MOST, out.size()));
    }

    private void around(BlockSource restored, RestoreLayout layout, List<Problem> out) throws IOException {
        for (Patch patch : Patches.lost(patches, restored)) {
            out.add(problem(0, 0, "What Granary wrote at byte " + patch.offsetBytes()
                + " of the target, for its new place or size, reads back as something else. Do not rely on this disk."));
        }
        table(restored, layout, out);
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
        try (Reading own = new Reading(source.reader())) {
            return compare(restored, own, first, end);
        }
    }

    private List<Problem> compare(BlockSource restored, Reading reader, long first, long end) throws IOException {
        List<Problem> out = new ArrayList<>();
        for (long chunk = first; chunk < end; chunk++) {
            long at = chunk * Chunks.BYTES;
            int length = Chunks.length(chunk, source.sizeBytes());
            long there = pieces.bytesWithin(at, at + length);
            boolean unused = !everything && used.bytesWithin(at, at + length) == 0;
            if (there == 0 || unused || passedOver.stream().anyMatch(each -> each.diskStartBytes() == at)) {
                continue;
            }
            boolean whole = there == length && (everything || used.bytesWithin(at, at + length) == length) && !patched(at, length);
            OptionalInt crc = whole ? reader.source.crc(chunk) : OptionalInt.empty();
            if (!(crc.isPresent() ? sameChecksum(restored, reader, crc.getAsInt(), at, length) : sameBytes(restored, reader, at, length))) {
                out.add(problem(at, at + length, source.differs(at, at + length)));
            }
        }
        return out;
    }

    private boolean patched(long at, int length) throws IOException {
        boolean[] found = {false};
        pieces.within(at, at + length, (from, to,
            where) -> found[0] |= patches.stream().anyMatch(each -> each.offsetBytes() < where + to - from && each.endBytes() > where));
        return found[0];
    }

    private boolean sameChecksum(BlockSource restored, Reading reader, int crc, long at, int length) throws IOException {
        pieces.within(at, at + length,
            (from, to, where) -> restored.read(where, ByteBuffer.wrap(reader.there, (int) (from - at), (int) (to - from))));
        return Chunks.crc(reader.there, length) == crc;
    }

    private boolean sameBytes(BlockSource restored, Reading reader, long at, int length) throws IOException {
        reader.source.read(at, reader.meant, length);
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
