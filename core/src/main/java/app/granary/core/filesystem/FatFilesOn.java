package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;

/**
 * Files of FAT12, FAT16 and FAT32 by the clusters they lie on. Directory entry of 32 bytes: name 0 (11 bytes), attributes 11, first cluster
 * 20 (high) and 26; an entry of attributes 0x0F before it holds 13 characters of its long name at 1, 14 and 28, the last piece first (FAT
 * specification 1.03, "FAT Directory Structure", "Long File Names").
 */
final class FatFilesOn {
    private static final int ENTRY = 32;
    private static final int LONG_NAME = 0x0F;
    private static final int LABEL = 0x08;
    private static final int DIRECTORY = 0x10;
    private static final int DELETED = 0xE5;

    private record Folder(String path, long cluster) {
    }

    private final BlockSource source;
    private final long start;
    private final FatGeometry fat;
    private final ClusterChain chain;
    private final FilesOn search;
    private final Deque<Folder> folders = new ArrayDeque<>();
    private final Set<Long> seen = new HashSet<>();
    private String longName = "";

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
            entries(Bytes.read(source, start + fat.rootStart(), fat.rootBytes()), "");
        }
        while (!folders.isEmpty() && seen.size() < FilesOn.MOST_LOOKED_AT) {
            Folder folder = folders.remove();
            longName = "";
            try {
                chain.walk(folder.cluster, cluster -> {
                    if (hits(cluster)) {
                        search.add(folder.path + "/");
                        search.tableHit();
                    }
                    return entries(Bytes.read(source, start + fat.clusterStart(cluster), (int) fat.clusterBytes()), folder.path);
                });
            } catch (Untrusted lost) {
                search.tableHit();
            }
        }
    }

    private boolean hits(long cluster) {
        return search.hits(fat.clusterStart(cluster), fat.clusterStart(cluster + 1));
    }

    /** @return whether the directory goes on */
    private boolean entries(Bytes directory, String path) throws IOException {
        for (int at = 0; at + ENTRY <= directory.length(); at += ENTRY) {
            int first = directory.u8(at);
            int attributes = directory.u8(at + 11);
            if (first == 0) {
                return false;
            }
            if (first == DELETED) {
                longName = "";
            } else if ((attributes & LONG_NAME) == LONG_NAME) {
                longName = longPiece(directory, at) + ((first & 0x40) != 0 ? "" : longName);
            } else {
                String name = longName.isEmpty() ? shortName(directory, at) : longName;
                longName = "";
                long cluster = (fat.bits() == 32 ? (long) directory.u16(at + 20) << 16 : 0) | directory.u16(at + 26);
                if ((attributes & LABEL) == 0 && first != '.' && cluster >= 2 && seen.add(cluster)) {
                    entry(path + "/" + name, cluster, (attributes & DIRECTORY) != 0);
                }
            }
        }
        return true;
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

    private static String longPiece(Bytes directory, int at) {
        StringBuilder text = new StringBuilder();
        for (int[] piece : new int[][] {{1, 10}, {14, 12}, {28, 4}}) {
            text.append(new String(directory.slice(at + piece[0], piece[1]), StandardCharsets.UTF_16LE));
        }
        int end = text.indexOf("\0");
        return end < 0 ? text.toString() : text.substring(0, end);
    }

    private static String shortName(Bytes directory, int at) {
        String text = new String(directory.slice(at, 11), StandardCharsets.ISO_8859_1);
        String ending = text.substring(8).strip();
        return (text.substring(0, 8).strip() + (ending.isEmpty() ? "" : "." + ending)).toLowerCase(Locale.ROOT);
    }
}
