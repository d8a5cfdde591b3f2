package app.granary.core.night;

import java.util.Arrays;

/** What one drive, link, computer or person is taken for, in seconds, in order and apart. */
final class Timetable {
    private long[] from = new long[8];
    private long[] to = new long[8];
    private int count;

    void clear() {
        count = 0;
    }

    /** The first moment from {@code notBefore} on that has {@code length} free seconds after it. */
    long earliest(long notBefore, long length) {
        long at = notBefore;
        for (int i = 0; i < count; i++) {
            if (to[i] > at) {
                if (from[i] - at >= length) {
                    return at;
                }
                at = to[i];
            }
        }
        return at;
    }

    void take(long begin, long end) {
        if (count == from.length) {
            from = Arrays.copyOf(from, count * 2);
            to = Arrays.copyOf(to, count * 2);
        }
        int at = count++;
        while (at > 0 && from[at - 1] > begin) {
            from[at] = from[at - 1];
            to[at] = to[at - 1];
            at--;
        }
        from[at] = begin;
        to[at] = end;
    }
}
