package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import java.io.IOException;
import java.io.InputStream;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Folders and files of ext2, ext3 and ext4: what {@link ExtInodes} finds, as others see it. */
final class ExtTree implements FileTree {
    private final BlockSource source;
    private final long start;
    private final ExtSuperblock fs;
    private final ExtInodes inodes;

    ExtTree(BlockSource source, long start, ExtSuperblock fs) {
        this.source = source;
        this.start = start;
        this.fs = fs;
        this.inodes = new ExtInodes(source, start, fs);
    }

    @Override
    public FileEntry root() {
        return new FileEntry("", FileEntry.Kind.FOLDER, 0, Instant.EPOCH, "", FileEntry.Id.of(ExtInodes.ROOT));
    }

    @Override
    public List<FileEntry> list(FileEntry folder) throws IOException {
        return new ExtNames(names(folder, ""), inodes).entries();
    }

    /** Before folders told what their names stand for, each inode had to be read for it. */
    @Override
    public FileNames names(FileEntry folder) throws IOException {
        ExtNames names = new ExtNames(names(folder, ""), inodes);
        return fs.namesTellKinds() ? names : FileNames.of(names.entries());
    }

    /** The inodes of the others are not read. */
    @Override
    public Optional<FileEntry> find(FileEntry folder, String name) throws IOException {
        List<ExtInodes.Entry> found = names(folder, name);
        return found.isEmpty() ? Optional.empty() : Optional.of(new ExtNames(found, inodes).entries().get(0));
    }

    /** @param only the one name that is wanted; empty for all */
    private List<ExtInodes.Entry> names(FileEntry folder, String only) throws IOException {
        List<ExtInodes.Entry> out = new ArrayList<>();
        try {
            Bytes inode = inodes.read(folder.id().number());
            Untrusted.unless(ExtInodes.isDirectory(inode), "it is no folder");
            for (ExtFile.Run run : ExtFile.runs(source, start, fs, inode)) {
                for (long block = run.block(); block < run.block() + run.count(); block++) {
                    for (ExtInodes.Entry each : ExtInodes.entries(Bytes.read(source, start + block * fs.blockBytes(), fs.blockBytes()))) {
                        boolean dots = each.name().equals(".") || each.name().equals("..");
                        if (!dots && (only.isEmpty() || each.name().equals(only))) {
                            out.add(each);
                        }
                    }
                    Untrusted.unless(out.size() <= MOST_ENTRIES, "it holds more names than a folder can");
                }
            }
        } catch (Untrusted nonsense) {
            throw FileTree.damaged(folder, nonsense.getMessage());
        }
        return out;
    }

    @Override
    public InputStream content(FileEntry file) throws IOException {
        return new FileContent(source, file, pieces(file));
    }

    @Override
    public List<FilePiece> pieces(FileEntry file) throws IOException {
        try {
            Bytes inode = inodes.read(file.id().number());
            Untrusted.unless(file.unreadable().isEmpty(), file.unreadable());
            if ((inode.u32(0x20) & ExtFile.INLINE) != 0) {
                return file.bytes() == 0 ? List.of()
                    : List.of(new FilePiece(start + inodes.offset(file.id().number()) + ExtFile.MAP_AT, file.bytes()));
            }
            return placed(ExtFile.runs(source, start, fs, inode), file.bytes());
        } catch (Untrusted nonsense) {
            throw FileTree.damaged(file, nonsense.getMessage());
        }
    }

    private List<FilePiece> placed(List<ExtFile.Run> runs, long bytes) throws Untrusted {
        List<FilePiece> out = new ArrayList<>();
        long at = 0;
        for (ExtFile.Run run : runs) {
            long from = run.fileBlock() * fs.blockBytes();
            Untrusted.unless(from >= at || at >= bytes, "its map runs backwards");
            if (from >= bytes) {
                break; // kept for it behind its end
            }
            if (from > at) {
                out.add(new FilePiece(FilePiece.ZEROS, from - at));
            }
            long length = Math.min(bytes - from, run.count() * fs.blockBytes());
            out.add(new FilePiece(run.written() ? start + run.block() * fs.blockBytes() : FilePiece.ZEROS, length));
            at = from + length;
        }
        if (at < bytes) {
            out.add(new FilePiece(FilePiece.ZEROS, bytes - at));
        }
        return out;
    }
}
