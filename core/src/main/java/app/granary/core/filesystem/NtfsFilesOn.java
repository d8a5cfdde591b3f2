package app.granary.core.filesystem;

import app.granary.core.disk.Bytes;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;

/**
 * Files of an NTFS volume by the clusters they lie on: every record of the master file table that is in use. A file's name and its folder
 * stand in the attribute FILE_NAME: reference of the folder 0, length of the name 64, kind of name 65 (2 = short), name 66 (from memory;
 * checked against ntfscluster).
 */
final class NtfsFilesOn {
    private static final long ROOT = 5;
    private static final int SHORT_NAME = 2;
    private static final int BASE_RECORD_AT = 32;
    private static final long REFERENCE = 0xFFFF_FFFF_FFFFL;
    private static final int DEEPEST = 255;

    private final NtfsVolume volume;
    private final FilesOn search;
    private final Map<Long, String> folders = new HashMap<>();

    private record Named(String name, long folder) {
    }

    NtfsFilesOn(NtfsVolume volume, FilesOn search) {
        this.volume = volume;
        this.search = search;
    }

    void find() throws IOException, Untrusted {
        folders.put(ROOT, "");
        int recordBytes = volume.geometry().recordBytes();
        NtfsRuns table = volume.table();
        long records = Math.min(FilesOn.MOST_LOOKED_AT, table.clusters() * volume.geometry().clusterBytes() / recordBytes);
        if (volume.ranges(table).stream().anyMatch(range -> search.hits(range[0], range[1]))) {
            search.tableHit();
        }
        for (long number = 0; number < records; number++) {
            try {
                NtfsRecord record = volume.record(number);
                if (record.inUse() && (record.content().i64(BASE_RECORD_AT) & REFERENCE) == 0 && liesOnDamage(record)) {
                    search.add(path(record, 0));
                }
            } catch (Untrusted unusedOrLost) {
                // a record never used, or one that lies on the damage: the latter is told of once, above
            }
        }
    }

    private boolean liesOnDamage(NtfsRecord record) throws IOException, Untrusted {
        // a folder's index is no content of a file, but damage to it loses names
        for (NtfsRuns runs : new NtfsRuns[] {volume.runs(record, NtfsRecord.DATA, ""),
            volume.runs(record, NtfsRecord.INDEX_ALLOCATION, "$I30")}) {
            if (volume.ranges(runs).stream().anyMatch(range -> search.hits(range[0], range[1]))) {
                return true;
            }
        }
        return false;
    }

    private String path(NtfsRecord record, int depth) throws IOException {
        Named named = named(record);
        return folder(named.folder, depth) + "/" + named.name;
    }

    private String folder(long number, int depth) throws IOException {
        String known = folders.get(number);
        if (known != null || depth > DEEPEST) {
            return known == null ? "/…" : known;
        }
        String path;
        try {
            path = path(volume.record(number), depth + 1);
        } catch (Untrusted lost) {
            path = "/(folder " + number + ", whose name is lost)";
        }
        folders.put(number, path);
        return path;
    }

    /** Its long name if it has one. */
    private static Named named(NtfsRecord record) {
        Named found = new Named("(record " + record.number() + ", without a name)", ROOT);
        for (NtfsRecord.Attribute each : record.all(NtfsRecord.FILE_NAME, "")) {
            Bytes content = record.content();
            int length = each.resident() && each.end() - each.at() >= 66 ? content.u8(each.at() + 64) * 2 : -1;
            if (length >= 0 && 66 + length <= each.end() - each.at()) {
                found = new Named(content.text(each.at() + 66, length, StandardCharsets.UTF_16LE), content.i64(each.at()) & REFERENCE);
                if (content.u8(each.at() + 65) != SHORT_NAME) {
                    return found;
                }
            }
        }
        return found;
    }
}
