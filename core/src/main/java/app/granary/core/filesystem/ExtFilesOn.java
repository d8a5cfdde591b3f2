package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** Files of an ext file system by the blocks they lie on: every folder from the root down, every file of it. */
final class ExtFilesOn {
    private record Folder(String path, long inode) {
    }

    private final BlockSource source;
    private final long start;
    private final ExtSuperblock fs;
    private final ExtInodes inodes;
    private final FilesOn search;
    private final Set<Long> seen = new HashSet<>();
    private final Deque<Folder> folders = new ArrayDeque<>();

    ExtFilesOn(BlockSource source, long start, ExtSuperblock fs, FilesOn search) {
        this.source = source;
        this.start = start;
        this.fs = fs;
        this.inodes = new ExtInodes(source, start, fs);
        this.search = search;
    }

    void find() throws IOException {
        folders.add(new Folder("", ExtInodes.ROOT));
        seen.add((long) ExtInodes.ROOT);
        while (!folders.isEmpty() && seen.size() < FilesOn.MOST_LOOKED_AT) {
            Folder folder = folders.remove();
            try {
                for (long[] piece : ExtFile.blocks(source, start, fs, inodes.read(folder.inode))) {
                    for (long block = piece[0]; block < piece[1]; block++) {
                        block(folder, block);
                    }
                }
            } catch (Untrusted lost) {
                search.tableHit();
            }
        }
    }

    private void block(Folder folder, long block) throws IOException {
        long at = block * fs.blockBytes();
        if (search.hits(at, at + fs.blockBytes())) {
            search.add(folder.path + "/");
            search.tableHit();
        }
        for (ExtInodes.Entry entry : ExtInodes.entries(Bytes.read(source, start + at, fs.blockBytes()))) {
            if (!entry.name().equals(".") && !entry.name().equals("..") && seen.add(entry.inode())) {
                entry(folder.path + "/" + entry.name(), entry.inode());
            }
        }
    }

    private void entry(String path, long number) throws IOException {
        try {
            long offset = inodes.offset(number);
            if (search.hits(offset, offset + fs.inodeBytes())) {
                search.add(path);
                search.tableHit();
                return;
            }
            Bytes inode = inodes.read(number);
            if (ExtInodes.isDirectory(inode)) {
                folders.add(new Folder(path, number));
            } else if (ExtInodes.isFile(inode) && liesOnDamage(inode)) {
                search.add(path);
            }
        } catch (Untrusted lost) {
            // content within the inode, or a map that was damaged itself: the latter lies on the damage as well
            if (lost.getMessage().contains("makes no sense")) {
                search.add(path);
            }
        }
    }

    private boolean liesOnDamage(Bytes inode) throws IOException, Untrusted {
        List<long[]> pieces = ExtFile.blocksAndMaps(source, start, fs, inode);
        return pieces.stream().anyMatch(piece -> search.hits(piece[0] * fs.blockBytes(), piece[1] * fs.blockBytes()));
    }
}
