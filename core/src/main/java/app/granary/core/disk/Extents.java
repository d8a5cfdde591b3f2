package app.granary.core.disk;

import java.util.Arrays;

/**
 * A set of byte ranges: sorted, disjoint, never touching. Immutable. Held as two arrays so that a disk with a million ranges costs sixteen
 * megabytes, not a million objects.
 */
public final class Extents {
    public static final Extents NONE = new Extents(new long[0], new long[0]);

    private final long[] starts;
    private final long[] ends;
    private final long totalBytes;

    private Extents(long[] starts, long[] ends) {
        this.starts = starts;
        this.ends = ends;
        long sum = 0;
        for (int i = 0; i < starts.length; i++) {
            sum += ends[i] - starts[i];
        }
        this.totalBytes = sum;
    }

    /** The range from {@code start} (inclusive) to {@code end} (exclusive); empty when they are equal. */
    public static Extents range(long start, long end) {
        return new Builder().add(start, end).build();
    }

    public int count() {
        return starts.length;
    }

    public long start(int index) {
        return starts[index];
    }

    public long end(int index) {
        return ends[index];
    }

    public long totalBytes() {
        return totalBytes;
    }

    public boolean isEmpty() {
        return starts.length == 0;
    }

    /** Index of the first range that ends after {@code offset}; {@link #count()} when there is none. */
    public int firstEndingAfter(long offset) {
        int at = Arrays.binarySearch(ends, offset + 1);
        return at >= 0 ? at : -at - 1;
    }

    /** How many bytes of this set lie in the given range. */
    public long bytesWithin(long start, long end) {
        long sum = 0;
        for (int i = firstEndingAfter(start); i < starts.length && starts[i] < end; i++) {
            sum += Math.min(end, ends[i]) - Math.max(start, starts[i]);
        }
        return sum;
    }

    /** What of them lies from {@code start} to {@code end}, counted from {@code start}. */
    public Extents within(long start, long end) {
        Builder out = new Builder();
        for (int i = firstEndingAfter(start); i < count() && start(i) < end; i++) {
            out.add(Math.max(start, start(i)) - start, Math.min(end, end(i)) - start);
        }
        return out.build();
    }

    public Extents union(Extents other) {
        Builder out = new Builder();
        int a = 0;
        int b = 0;
        while (a < count() || b < other.count()) {
            if (b >= other.count() || a < count() && starts[a] <= other.starts[b]) {
                out.add(starts[a], ends[a]);
                a++;
            } else {
                out.add(other.starts[b], other.ends[b]);
                b++;
            }
        }
        return out.build();
    }

    /** What of {@code [start, end)} is not in this set. */
    public Extents complement(long start, long end) {
        Builder out = new Builder();
        long at = start;
        for (int i = firstEndingAfter(start); i < starts.length && starts[i] < end; i++) {
            if (starts[i] > at) {
                out.add(at, starts[i]);
            }
            at = ends[i];
        }
        return at < end ? out.add(at, end).build() : out.build();
    }

    public Extents minus(Extents other) {
        if (isEmpty() || other.isEmpty()) {
            return this;
        }
        Builder out = new Builder();
        int b = 0;
        for (int i = 0; i < starts.length; i++) {
            long at = starts[i];
            while (b < other.count() && other.ends[b] <= at) {
                b++;
            }
            for (int k = b; k < other.count() && other.starts[k] < ends[i]; k++) {
                out.add(at, Math.max(at, other.starts[k]));
                at = Math.max(at, Math.min(ends[i], other.ends[k]));
            }
            out.add(at, ends[i]);
        }
        return out.build();
    }

    public Extents shift(long bytes) {
        long[] movedStarts = starts.clone();
        long[] movedEnds = ends.clone();
        for (int i = 0; i < starts.length; i++) {
            movedStarts[i] += bytes;
            movedEnds[i] += bytes;
        }
        return new Extents(movedStarts, movedEnds);
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Extents that && Arrays.equals(starts, that.starts) && Arrays.equals(ends, that.ends);
    }

    @Override
    public int hashCode() {
        return 31 * Arrays.hashCode(starts) + Arrays.hashCode(ends);
    }

    @Override
    public String toString() {
        StringBuilder out = new StringBuilder("[");
        for (int i = 0; i < Math.min(8, starts.length); i++) {
            out.append(i == 0 ? "" : ", ").append(starts[i]).append("..").append(ends[i]);
        }
        return out.append(starts.length > 8 ? ", ... " + starts.length + " ranges]" : "]").toString();
    }

    /** Collects ranges in rising order of their starts; touching and overlapping ones are joined. */
    public static final class Builder {
        private long[] starts = new long[16];
        private long[] ends = new long[16];
        private int count;

        /** Adds {@code [start, end)}; an empty range adds nothing. */
        public Builder add(long start, long end) {
            if (end < start || start < 0) {
                throw new IllegalArgumentException("not a range: " + start + ".." + end);
            }
            if (end == start) {
                return this;
            }
            if (count > 0 && start < starts[count - 1]) {
                throw new IllegalArgumentException("ranges must come in rising order: " + start + " after " + starts[count - 1]);
            }
            if (count > 0 && start <= ends[count - 1]) {
                ends[count - 1] = Math.max(ends[count - 1], end);
                return this;
            }
            if (count == starts.length) {
                starts = Arrays.copyOf(starts, count * 2);
                ends = Arrays.copyOf(ends, count * 2);
            }
            starts[count] = start;
            ends[count++] = end;
            return this;
        }

        public Extents build() {
            return count == 0 ? NONE : new Extents(Arrays.copyOf(starts, count), Arrays.copyOf(ends, count));
        }
    }
}
