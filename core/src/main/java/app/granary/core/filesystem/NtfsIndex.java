package app.granary.core.filesystem;

import app.granary.core.disk.Bytes;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.time.Instant;

/**
 * The names in a folder of NTFS, from its index. An index entry is: record reference 0, length 8, key length 10, flags 12 (2 = last), key
 * 16. The key repeats the file's own FILE_NAME: parent 0, last change 16, length 48, flags 56, what kind of link 60, name length 64, kind
 * of name 65 (2 = short), name 66 (from memory; checked against ntfsls and ntfscat).
 */
final class NtfsIndex {
    private static final String INDEX = "$I30";
    private static final int INDEX_HEAD = 16;
    private static final int BLOCK_HEAD = 24;
    private static final int KEY = 16;
    private static final int NAME = 66;
    private static final int LAST = 2;
    private static final int SHORT_NAME = 2;
    private static final int MOST_MAP = 16 << 20;
    /** From 1601, in units of 100 ns. */
    private static final long EPOCH_SECONDS = 11_644_473_600L;
    private static final long PER_SECOND = 10_000_000L;

    private final NtfsVolume volume;

    NtfsIndex(NtfsVolume volume) {
        this.volume = volume;
    }

    /**
     * A name.
     *
     * @param reference the file's record, and in the upper 16 bits how often it was used before
     * @param bytes     as the index has it; the file's own record knows better
     * @param link      what kind of reparse point; 0 for none
     */
    record Name(long reference, String name, long bytes, Instant modifiedAt, long flags, long link) {
    }

    /** What is told of each; it may stop by refusing. */
    interface Names {
        void name(Name name) throws Untrusted;
    }

    /** Short names that stand for a long one are passed over, blocks that are no longer used too. */
    void each(NtfsRecord folder, Names names) throws IOException, Untrusted {
        for (NtfsRecord.Attribute each : folder.all(NtfsRecord.INDEX_ROOT, INDEX)) {
            if (each.resident()) {
                entries(volume.value(folder, each, 0), INDEX_HEAD, names);
            }
        }
        NtfsRuns runs = volume.runs(folder, NtfsRecord.INDEX_ALLOCATION, INDEX);
        if (runs.runs().isEmpty()) {
            return;
        }
        NtfsVolume.Stream map = volume.stream(folder, NtfsRecord.BITMAP, INDEX);
        Bytes used = volume.value(map.holder(), map.first(), MOST_MAP);
        int blockBytes = volume.geometry().indexBytes();
        long blocks = Math.min(used.length() * 8L, runs.clusters() * volume.geometry().clusterBytes() / blockBytes);
        byte[] block = new byte[blockBytes];
        for (long i = 0; i < blocks; i++) {
            if ((used.u8((int) (i / 8)) >> (i % 8) & 1) == 1) {
                volume.read(runs, i * blockBytes, ByteBuffer.wrap(block));
                Bytes content = Bytes.of(block);
                Untrusted.unless(content.matches(0, "INDX") && NtfsFixups.apply(block), "a block of its index is damaged");
                entries(content, BLOCK_HEAD, names);
            }
        }
    }

    /** @param head offset of the index header: first entry 0, end of entries 4, both counted from itself */
    private static void entries(Bytes index, int head, Names names) throws Untrusted {
        Untrusted.unless(head + 8 <= index.length(), "its index is cut short");
        long at = head + index.u32(head);
        long end = Math.min(index.length(), head + index.u32(head + 4));
        while (at + KEY <= end) {
            int entry = (int) at;
            int length = index.u16(entry + 8);
            Untrusted.unless(length >= KEY && at + length <= end, "an entry of its index runs past its end");
            if ((index.u16(entry + 12) & LAST) != 0) {
                return;
            }
            int key = entry + KEY;
            Untrusted.unless(length >= KEY + NAME && KEY + NAME + index.u8(key + 64) * 2 <= length,
                "a name in its index runs past its end");
            if (index.u8(key + 65) != SHORT_NAME) {
                names.name(new Name(index.i64(entry), index.text(key + NAME, index.u8(key + 64) * 2, StandardCharsets.UTF_16LE),
                    index.i64(key + 48), moment(index.i64(key + 16)), index.u32(key + 56), index.u32(key + 60)));
            }
            at += length;
        }
    }

    private static Instant moment(long time) {
        return Instant.ofEpochSecond(Math.floorDiv(time, PER_SECOND) - EPOCH_SECONDS, Math.floorMod(time, PER_SECOND) * 100);
    }
}
