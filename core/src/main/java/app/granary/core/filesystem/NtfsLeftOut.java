package app.granary.core.filesystem;

import app.granary.core.disk.Bytes;
import app.granary.core.disk.Extents;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Page file and hibernation file of an NTFS volume, found by name in the index of its root directory (record 5). An index entry is: record
 * reference 0, length 8, key length 10, flags 12 (2 = last), key 16: parent 0, name length 64, name 66. Whatever of it makes no sense is
 * passed over: then nothing is left out.
 */
final class NtfsLeftOut {
    private static final long ROOT = 5;
    private static final String INDEX = "$I30";
    private static final int INDEX_HEAD = 16;
    private static final int BLOCK_HEAD = 24;
    /** A root directory of more blocks than this is not searched to its end. */
    private static final int MOST_BLOCKS = 4096;
    /** Entries of the wanted names, old ones in unused blocks included. */
    private static final int MOST_FOUND = 64;
    private static final Map<String, LeftOut.What> NAMES = Map.of("pagefile.sys", LeftOut.What.PAGE_FILE, "swapfile.sys",
        LeftOut.What.PAGE_FILE,
        "hiberfil.sys", LeftOut.What.HIBERNATION_FILE);

    private final NtfsVolume volume;
    private final Map<Long, String> found = new LinkedHashMap<>();

    private NtfsLeftOut(NtfsVolume volume) {
        this.volume = volume;
    }

    static List<LeftOut> find(NtfsVolume volume) throws IOException {
        NtfsLeftOut search = new NtfsLeftOut(volume);
        try {
            search.root();
        } catch (Untrusted nonsense) {
            return List.of();
        }
        List<LeftOut> out = new ArrayList<>();
        for (Map.Entry<Long, String> each : search.found.entrySet()) {
            search.file(each.getKey(), each.getValue(), out);
        }
        return out;
    }

    private void root() throws IOException, Untrusted {
        NtfsRecord root = volume.record(ROOT);
        for (NtfsRecord.Attribute each : root.all(NtfsRecord.INDEX_ROOT, INDEX)) {
            if (each.resident()) {
                Bytes value = volume.value(root, each, 0);
                entries(value, INDEX_HEAD);
            }
        }
        NtfsRuns runs = volume.runs(root, NtfsRecord.INDEX_ALLOCATION, INDEX);
        int blockBytes = volume.geometry().indexBytes();
        long blocks = Math.min(MOST_BLOCKS, runs.clusters() * volume.geometry().clusterBytes() / blockBytes);
        byte[] block = new byte[blockBytes];
        for (long i = 0; i < blocks; i++) {
            volume.read(runs, i * blockBytes, ByteBuffer.wrap(block));
            Bytes content = Bytes.of(block);
            if (content.matches(0, "INDX") && NtfsFixups.apply(block)) {
                entries(content, BLOCK_HEAD);
            }
        }
    }

    /** @param head offset of the index header: first entry 0, end of entries 4, both counted from itself */
    private void entries(Bytes index, int head) {
        if (head + 8 > index.length()) {
            return;
        }
        long at = head + index.u32(head);
        long end = Math.min(index.length(), head + index.u32(head + 4));
        while (at + 16 <= end) {
            int entry = (int) at;
            int length = index.u16(entry + 8);
            if (length < 16 || at + length > end || (index.u16(entry + 12) & 2) != 0) {
                return;
            }
            if (length >= 16 + 66 && 16 + 66 + index.u8(entry + 16 + 64) * 2 <= length) {
                String name = index.text(entry + 16 + 66, index.u8(entry + 16 + 64) * 2, StandardCharsets.UTF_16LE)
                    .toLowerCase(Locale.ROOT);
                if (NAMES.containsKey(name) && found.size() < MOST_FOUND) {
                    found.put(index.i64(entry), name);
                }
            }
            at += length;
        }
    }

    /**
     * The entry may be an old one in a block no longer used: the record itself must be in use, of the same age, and name the root as
     * parent.
     */
    private void file(long reference, String name, List<LeftOut> into) throws IOException {
        try {
            NtfsRecord record = volume.record(reference & 0xFFFF_FFFF_FFFFL);
            boolean same = record.inUse() && record.sequence() == (int) (reference >>> 48) && record.all(NtfsRecord.FILE_NAME, "").stream()
                .anyMatch(a -> a.resident() && a.end() - a.at() >= 66 && (record.content().i64(a.at()) & 0xFFFF_FFFF_FFFFL) == ROOT);
            if (same) {
                Extents.Builder ranges = new Extents.Builder();
                volume.ranges(volume.runs(record, NtfsRecord.DATA, "")).forEach(range -> ranges.add(range[0], range[1]));
                Extents built = ranges.build();
                if (!built.isEmpty()) {
                    into.add(new LeftOut(name, NAMES.get(name), built));
                }
            }
        } catch (Untrusted nonsense) {
            // kept as it is
        }
    }
}
