package app.granary.engine.restore;

import java.util.TreeMap;

/** Up to which chunk everything is written, while several threads write. */
final class SafeSoFar {
    private final TreeMap<Long, Long> ahead = new TreeMap<>();
    private long next;

    SafeSoFar(long from) {
        this.next = from;
    }

    /** @return chunks from the first on that are written without a gap */
    synchronized long written(long chunk, long count) {
        ahead.merge(chunk, count, Math::max);
        while (!ahead.isEmpty() && ahead.firstKey() <= next) {
            var first = ahead.pollFirstEntry();
            next = Math.max(next, first.getKey() + first.getValue());
        }
        return next;
    }
}
