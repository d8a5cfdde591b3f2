package app.granary.core.filesystem;

import app.granary.core.disk.Bytes;
import java.util.ArrayList;
import java.util.List;

/**
 * Where an attribute's clusters lie, in the order of the attribute. On disk each run is a head byte (low half: bytes of the length, high
 * half: bytes of the place), the length, and the place relative to the run before; without a place the run is a hole.
 */
record NtfsRuns(List<Run> runs) {
    /** The most runs followed in one attribute; a file in more pieces is not worth leaving out, a bitmap in more is not trusted. */
    private static final int MOST = 1 << 20;
    static final long HOLE = -1;

    /** @param cluster first cluster, or {@link #HOLE} */
    record Run(long cluster, long count) {
    }

    NtfsRuns {
        runs = List.copyOf(runs);
    }

    long clusters() {
        return runs.stream().mapToLong(Run::count).sum();
    }

    NtfsRuns then(NtfsRuns next) {
        List<Run> all = new ArrayList<>(runs);
        all.addAll(next.runs);
        return new NtfsRuns(all);
    }

    /**
     * @param from     first byte of the runs within the record
     * @param end      end of the attribute
     * @param clusters in the volume: nothing may reach past it
     */
    static NtfsRuns decode(Bytes record, int from, int end, long clusters) throws Untrusted {
        List<Run> out = new ArrayList<>();
        long place = 0;
        long total = 0;
        int at = from;
        while (at < end && record.u8(at) != 0) {
            int lengthBytes = record.u8(at) & 0xF;
            int placeBytes = record.u8(at) >> 4;
            Untrusted.unless(
                lengthBytes >= 1 && lengthBytes <= 8 && placeBytes <= 8 && at + 1 + lengthBytes + placeBytes <= end && out.size() < MOST,
                "a list of runs in its file table makes no sense");
            long count = signed(record, at + 1, lengthBytes);
            Untrusted.unless(count > 0 && count <= clusters - total, "a run in its file table has an impossible length");
            total += count;
            if (placeBytes == 0) {
                out.add(new Run(HOLE, count));
            } else {
                place += signed(record, at + 1 + lengthBytes, placeBytes);
                Untrusted.unless(place >= 0 && place <= clusters - count, "a run in its file table lies outside the volume");
                out.add(new Run(place, count));
            }
            at += 1 + lengthBytes + placeBytes;
        }
        return new NtfsRuns(out);
    }

    private static long signed(Bytes record, int at, int bytes) {
        long value = (byte) record.u8(at + bytes - 1);
        for (int i = bytes - 2; i >= 0; i--) {
            value = value << 8 | record.u8(at + i);
        }
        return value;
    }
}
