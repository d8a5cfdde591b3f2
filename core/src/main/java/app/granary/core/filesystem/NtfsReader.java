package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import app.granary.core.disk.Extents;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.List;

/**
 * Allocation of NTFS from {@code $Bitmap}, one bit per cluster (record 6 of the file table). A volume whose dirty flag is set, or whose
 * journal was not closed, is not trusted: its bitmap may lag behind. What lies past the last cluster, the copy of the boot sector among it,
 * is read.
 */
final class NtfsReader {
    private static final long LOGFILE = 2;
    private static final long VOLUME = 3;
    private static final long BITMAP = 6;
    private static final int DIRTY = 0x1;
    private static final int WINDOW = 1 << 20;
    private static final int NO_CLIENT = 0xFFFF;
    private static final int CLOSED = 0x2;

    private NtfsReader() {
    }

    static FileSystem read(BlockSource source, long start, long size, Bytes boot) throws IOException {
        try {
            return map(new NtfsVolume(source, start, NtfsGeometry.read(boot, size)), size);
        } catch (Untrusted reason) {
            return new FileSystem.Whole("ntfs", reason.getMessage());
        }
    }

    private static FileSystem map(NtfsVolume volume, long size) throws IOException, Untrusted {
        requireClean(volume);
        NtfsGeometry geometry = volume.geometry();
        NtfsRecord record = volume.record(BITMAP);
        List<NtfsRecord.Attribute> data = record.all(NtfsRecord.DATA, "");
        long mapBytes = (geometry.clusters() + 7) / 8;
        FreeRuns free = new FreeRuns(0, geometry.clusterBytes());
        if (data.size() == 1 && data.get(0).resident()) {
            Untrusted.unless(data.get(0).dataBytes() >= mapBytes, "its cluster map is shorter than the volume");
            free.bitmap(record.content().slice(data.get(0).at(), (int) mapBytes), (int) geometry.clusters(), 0);
        } else {
            NtfsRuns runs = volume.runs(record, NtfsRecord.DATA, "");
            Untrusted.unless(runs.clusters() >= (mapBytes + geometry.clusterBytes() - 1) / geometry.clusterBytes(),
                "its cluster map is shorter than the volume");
            byte[] window = new byte[(int) Math.min(WINDOW, mapBytes)];
            for (long at = 0; at < mapBytes; at += window.length) {
                int length = (int) Math.min(window.length, mapBytes - at);
                volume.read(runs, at, ByteBuffer.wrap(window, 0, length));
                free.bitmap(window, (int) Math.min(length * 8L, geometry.clusters() - at * 8), at * 8);
            }
        }
        Extents toRead = free.build().complement(0, size);
        return new FileSystem.Mapped("ntfs", geometry.clusterBytes(), geometry.clusters() - free.freeBlocks(), free.freeBlocks(), toRead,
            NtfsLeftOut.find(volume));
    }

    private static void requireClean(NtfsVolume volume) throws IOException, Untrusted {
        NtfsRecord record = volume.record(VOLUME);
        List<NtfsRecord.Attribute> information = record.all(NtfsRecord.VOLUME_INFORMATION, "");
        Untrusted.unless(information.size() == 1 && information.get(0).resident() && information.get(0).dataBytes() >= 12,
            "its volume record is not readable");
        Untrusted.unless((record.content().u16(information.get(0).at() + 10) & DIRTY) == 0,
            "it is marked as dirty: it was in use, or was not shut down");
        requireClosedJournal(volume);
    }

    /**
     * A journal never written is all ones; a closed one has no client in use, or says so in its flags (from memory; as ntfs-3g judges it).
     */
    private static void requireClosedJournal(NtfsVolume volume) throws IOException, Untrusted {
        NtfsRuns runs = volume.runs(volume.record(LOGFILE), NtfsRecord.DATA, "");
        if (runs.runs().isEmpty()) {
            return;
        }
        byte[] head = new byte[512];
        volume.read(runs, 0, ByteBuffer.wrap(head));
        Bytes page = Bytes.of(head);
        if (page.matches(0, "RSTR")) {
            int area = page.u16(24);
            Untrusted.unless(area + 16 <= head.length - 2, "its journal begins with nonsense");
            Untrusted.unless(page.u16(area + 12) == NO_CLIENT || (page.u16(area + 14) & CLOSED) != 0,
                "its journal is still open: the computer was not shut down, or only put to sleep. Shut it down fully and it is read by "
                    + "its map");
        } else {
            Untrusted.unless(page.u32(0) == 0xFFFF_FFFFL, "its journal begins with nonsense");
        }
    }
}
