package app.granary.engine.restore;

import app.granary.core.disk.PartitionTable;
import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** Which stretches of a disk go where on a target. In order of where they come from; what belongs to none of them is not written. */
final class Pieces {
    private final List<Piece> pieces;

    /** @param at where on the target its first byte goes */
    record Piece(long from, long to, long at) {
    }

    /** Takes a part of a piece that lies within what was asked for. */
    interface Taker {
        void take(long from, long to, long at) throws IOException;
    }

    private Pieces(List<Piece> pieces) {
        this.pieces = pieces;
    }

    /** @param diskBytes length of the disk in the image */
    static Pieces of(RestoreLayout layout, long diskBytes) {
        List<Piece> out = new ArrayList<>();
        long target = layout.target().sizeBytes();
        if (layout.asItWas()) {
            long end = Math.min(diskBytes, target);
            boolean tableMoves = layout.table() instanceof PartitionTable.Gpt && target != diskBytes;
            // the backup of a GPT belongs to the real end; a stale one is not left where the old end was
            long kept = tableMoves ? Math.min(end, layout.placed().stream().mapToLong(each -> each.to().endBytes()).max().orElse(end))
                : end;
            out.add(new Piece(0, kept, 0));
            return new Pieces(out);
        }
        if (!layout.othersStay() && !layout.placed().isEmpty()) {
            long front = layout.placed().stream().mapToLong(each -> Math.min(each.from().startBytes(), each.to().startBytes())).min()
                .orElse(0);
            if (front > 0) {
                out.add(new Piece(0, front, 0));
            }
        }
        for (Placed each : layout.placed()) {
            if (each.restored()) {
                out.add(new Piece(each.from().startBytes(), each.from().startBytes() + each.copiedBytes(), each.to().startBytes()));
            }
        }
        out.sort(Comparator.comparingLong(Piece::from));
        return new Pieces(out);
    }

    /** Hands over what of {@code [start, end)} goes to the target. */
    void within(long start, long end, Taker taker) throws IOException {
        for (int i = first(start); i < pieces.size() && pieces.get(i).from < end; i++) {
            Piece piece = pieces.get(i);
            long from = Math.max(start, piece.from);
            long to = Math.min(end, piece.to);
            if (from < to) {
                taker.take(from, to, piece.at + from - piece.from);
            }
        }
    }

    /** How many bytes of {@code [start, end)} go to the target. */
    long bytesWithin(long start, long end) {
        long sum = 0;
        for (int i = first(start); i < pieces.size() && pieces.get(i).from < end; i++) {
            sum += Math.max(0, Math.min(end, pieces.get(i).to) - Math.max(start, pieces.get(i).from));
        }
        return sum;
    }

    private int first(long start) {
        int low = 0;
        int high = pieces.size();
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (pieces.get(middle).to <= start) {
                low = middle + 1;
            } else {
                high = middle;
            }
        }
        return low;
    }
}
