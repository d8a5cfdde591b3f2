package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import app.granary.core.disk.Extents;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Page file and hibernation file of a FAT volume, found by their short names in the root directory. Directory entry (FAT specification
 * 1.03, "FAT directory structure"): name 0 (11 bytes), attributes 11, high half of the first cluster 20, low half 26. A file whose chain
 * makes no sense is kept as it is.
 */
final class FatLeftOut {
    private static final int ENTRY = 32;
    private static final int NOT_A_FILE = 0x08 | 0x10;
    /** Names of the trade; the last two are of systems before 2001 (common practice, no source). */
    private static final Map<String, LeftOut.What> NAMES = Map.of("PAGEFILESYS", LeftOut.What.PAGE_FILE, "SWAPFILESYS",
        LeftOut.What.PAGE_FILE,
        "HIBERFILSYS", LeftOut.What.HIBERNATION_FILE, "WIN386  SWP", LeftOut.What.PAGE_FILE, "386SPARTPAR", LeftOut.What.PAGE_FILE);
    /** Root directories are not searched further than this many clusters. */
    private static final int MOST_CLUSTERS = 256;

    private final BlockSource source;
    private final long start;
    private final FatGeometry fat;
    private final ClusterChain chain;
    private final List<LeftOut> found = new ArrayList<>();

    private FatLeftOut(BlockSource source, long start, FatGeometry fat) {
        this.source = source;
        this.start = start;
        this.fat = fat;
        this.chain = new ClusterChain(source, start + fat.fatStart(), fat.fatBytes(), fat.bits(), fat.entryMask(), fat.clusters());
    }

    static List<LeftOut> find(BlockSource source, long start, FatGeometry fat) throws IOException {
        FatLeftOut search = new FatLeftOut(source, start, fat);
        try {
            if (fat.bits() != 32) {
                search.entries(Bytes.read(source, start + fat.rootStart(), fat.rootBytes()));
            } else {
                int[] looked = {0};
                search.chain.walk(fat.rootCluster(),
                    cluster -> search.entries(Bytes.read(source, start + fat.clusterStart(cluster), (int) fat.clusterBytes()))
                        && ++looked[0] < MOST_CLUSTERS);
            }
        } catch (Untrusted nonsense) {
            return List.of();
        }
        return search.found;
    }

    /** @return whether the directory goes on */
    private boolean entries(Bytes directory) throws IOException {
        for (int at = 0; at + ENTRY <= directory.length(); at += ENTRY) {
            if (directory.u8(at) == 0) {
                return false;
            }
            String name = new String(directory.slice(at, 11), StandardCharsets.ISO_8859_1).toUpperCase(Locale.ROOT);
            if ((directory.u8(at + 11) & NOT_A_FILE) == 0 && NAMES.containsKey(name)) {
                file(name, (long) directory.u16(at + 20) << 16 | directory.u16(at + 26));
            }
        }
        return true;
    }

    private void file(String name, long first) throws IOException {
        // a page file is made in one go and lies in few pieces; sorted, they are ranges
        List<long[]> pieces = new ArrayList<>();
        try {
            chain.walk(first, cluster -> {
                if (!pieces.isEmpty() && pieces.get(pieces.size() - 1)[1] == cluster) {
                    pieces.get(pieces.size() - 1)[1] = cluster + 1;
                } else {
                    pieces.add(new long[] {cluster, cluster + 1});
                }
                return pieces.size() < FreeRuns.MOST;
            });
        } catch (Untrusted nonsense) {
            return;
        }
        Extents.Builder ranges = new Extents.Builder();
        pieces.sort((a, b) -> Long.compare(a[0], b[0]));
        pieces.forEach(piece -> ranges.add(fat.clusterStart(piece[0]), fat.clusterStart(piece[1])));
        String shown = name.substring(0, 8).strip() + "." + name.substring(8).strip();
        found.add(new LeftOut(shown.toLowerCase(Locale.ROOT), NAMES.get(name), ranges.build()));
    }
}
