package app.granary.core.filesystem;

import app.granary.core.disk.Extents;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Page file and hibernation file of an NTFS volume, found by name in the index of its root directory (record 5). Where that makes no sense
 * nothing is left out.
 */
final class NtfsLeftOut {
    private static final long ROOT = 5;
    /** Entries of the wanted names; a sound volume has one of each. */
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
        new NtfsIndex(volume).each(volume.record(ROOT), each -> {
            String name = each.name().toLowerCase(Locale.ROOT);
            if (NAMES.containsKey(name) && found.size() < MOST_FOUND) {
                found.put(each.reference(), name);
            }
        });
    }

    /**
     * The entry may be an old one: the record itself must be in use, of the same age, and name the root as
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
