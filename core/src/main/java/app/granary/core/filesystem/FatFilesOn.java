package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.Set;

/** Files of FAT12, FAT16 and FAT32 by the clusters they lie on. */
final class FatFilesOn {
    private static final int DIRECTORY = 0x10;

    private record Folder(String path, long cluster) {
    }

    private final BlockSource source;
    private final long start;
    private final FatGeometry fat;
    private final ClusterChain chain;
    private final FilesOn search;
    private final Deque<Folder> folders = new ArrayDeque<>();
    private final Set<Long> seen = new HashSet<>();

    FatFilesOn(BlockSource source, long start, FatGeometry fat, FilesOn search) {
        this.source = source;
        this.start = start;
        this.fat = fat;
        this.chain = new ClusterChain(source, start + fat.fatStart(), fat.fatBytes(), fat.bits(), fat.entryMask(), fat.clusters());
        this.search = search;
    }

    void find() throws IOException {
        if (search.hits(fat.fatStart(), fat.fatStart() + fat.fatBytes())) {
            search.tableHit();
        }
        if (fat.bits() == 32) {
            folders.add(new Folder("", fat.rootCluster()));
        } else {
            entries("").read(Bytes.read(source, start + fat.rootStart(), fat.rootBytes()));
        }
        while (!folders.isEmpty() && seen.size() < FilesOn.MOST_LOOKED_AT) {
            Folder folder = folders.remove();
            FatEntries entries = entries(folder.path);
            try {
                chain.walk(folder.cluster, cluster -> {
                    if (hits(cluster)) {
                        search.add(folder.path + "/");
                        search.tableHit();
                    }
                    return entries.read(Bytes.read(source, start + fat.clusterStart(cluster), (int) fat.clusterBytes()));
                });
            } catch (Untrusted lost) {
                search.tableHit();
            }
        }
    }

    private boolean hits(long cluster) {
        return search.hits(fat.clusterStart(cluster), fat.clusterStart(cluster + 1));
    }

    private FatEntries entries(String path) {
        return new FatEntries(fat.bits() == 32, (name, directory, at, cluster) -> {
            if (cluster >= 2 && seen.add(cluster)) {
                entry(path + "/" + name, cluster, (directory.u8(at + 11) & DIRECTORY) != 0);
            }
        });
    }

    private void entry(String path, long first, boolean directory) throws IOException {
        if (directory) {
            folders.add(new Folder(path, first));
            return;
        }
        boolean[] hit = {false};
        try {
            chain.walk(first, cluster -> {
                hit[0] |= hits(cluster);
                return !hit[0];
            });
        } catch (Untrusted lost) {
            hit[0] = true; // its chain is broken by the damage
        }
        if (hit[0]) {
            search.add(path);
        }
    }
}
