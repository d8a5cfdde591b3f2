package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Files of NTFS: those in their own record, those along runs, packed ones, and ones with holes. Its own system files are not shown. */
final class NtfsTree implements FileTree {
    private static final long ROOT = 5L << 48 | 5;
    private static final long NUMBER = 0xFFFF_FFFF_FFFFL;
    /** Records below are the file system's own, the topmost folder among them. */
    private static final long FIRST_OF_USERS = 16;
    private static final long ENCRYPTED = 0x4000;
    private static final long REPARSE = 0x400;
    private static final long FOLDER = 0x1000_0000;
    /** Reparse tags of what leads to another name: a symbolic link, and a folder put at another place (MS-FSCC, section 2.1.2.1). */
    private static final List<Long> LINKS = List.of(0xA000_000CL, 0xA000_0003L);

    private final BlockSource source;
    private final long start;
    private final NtfsVolume volume;
    private final NtfsIndex index;

    NtfsTree(BlockSource source, long start, NtfsVolume volume) {
        this.source = source;
        this.start = start;
        this.volume = volume;
        this.index = new NtfsIndex(volume);
    }

    @Override
    public FileEntry root() {
        return new FileEntry("", FileEntry.Kind.FOLDER, 0, Instant.EPOCH, "", FileEntry.Id.of(ROOT));
    }

    @Override
    public List<FileEntry> list(FileEntry folder) throws IOException {
        List<FileEntry> out = new ArrayList<>();
        try {
            index.each(record(folder), name -> {
                if ((name.reference() & NUMBER) >= FIRST_OF_USERS) {
                    out.add(entry(name));
                    Untrusted.unless(out.size() <= MOST_ENTRIES, "it holds more names than a folder can");
                }
            });
        } catch (Untrusted nonsense) {
            throw FileTree.damaged(folder, nonsense.getMessage());
        }
        return out;
    }

    /** As long as its own record says: a folder is told of a file's length only now and then, and by one of its names. */
    @Override
    public Optional<FileEntry> find(FileEntry folder, String name) throws IOException {
        Optional<FileEntry> found = FileTree.super.find(folder, name);
        if (found.isEmpty() || found.get().kind() != FileEntry.Kind.FILE || !found.get().unreadable().isEmpty()) {
            return found;
        }
        FileEntry file = found.get();
        try {
            NtfsRecord.Attribute first = data(file).first();
            long bytes = first.resident() ? first.end() - first.at() : first.dataBytes();
            return Optional.of(new FileEntry(file.name(), file.kind(), Math.max(0, bytes), file.modifiedAt(),
                bytes < 0 ? "its length makes no sense" : "", file.id()));
        } catch (Untrusted nonsense) {
            return Optional.of(new FileEntry(file.name(), file.kind(), 0, file.modifiedAt(), nonsense.getMessage(), file.id()));
        }
    }

    private static FileEntry entry(NtfsIndex.Name name) {
        boolean folder = (name.flags() & FOLDER) != 0;
        boolean link = (name.flags() & REPARSE) != 0;
        boolean leads = link && LINKS.contains(name.link());
        String unreadable = link && !leads ? "only its own system can read it, by a driver"
            : !folder && (name.flags() & ENCRYPTED) != 0 ? "it is encrypted by its system"
            : name.bytes() < 0 ? "its length makes no sense" : "";
        FileEntry.Kind kind = leads ? FileEntry.Kind.LINK : folder ? FileEntry.Kind.FOLDER : FileEntry.Kind.FILE;
        return new FileEntry(name.name(), kind, kind == FileEntry.Kind.FILE ? Math.max(0, name.bytes()) : 0, name.modifiedAt(), unreadable,
            FileEntry.Id.of(name.reference()));
    }

    private NtfsRecord record(FileEntry entry) throws IOException, Untrusted {
        long number = entry.id().number() & NUMBER;
        NtfsRecord record = volume.record(number);
        Untrusted.unless(record.inUse() && (entry.id().number() == ROOT || record.sequence() == (int) (entry.id().number() >>> 48)),
            "its record in the file table is no longer its own");
        return record;
    }

    private NtfsVolume.Stream data(FileEntry file) throws IOException, Untrusted {
        Untrusted.unless(file.unreadable().isEmpty(), file.unreadable());
        return volume.stream(record(file), NtfsRecord.DATA, "");
    }

    @Override
    public List<FilePiece> pieces(FileEntry file) throws IOException {
        try {
            NtfsVolume.Stream data = data(file);
            if (!data.first().resident()) {
                return placed(data);
            }
            long at = volume.placeOf(data.holder().number()) + data.first().at();
            int length = data.first().end() - data.first().at();
            return length == 0 ? List.of() : List.of(new FilePiece(start + at, length));
        } catch (Untrusted nonsense) {
            throw FileTree.damaged(file, nonsense.getMessage());
        }
    }

    /** What was never written, behind its written length, reads as zeros. */
    private List<FilePiece> placed(NtfsVolume.Stream data) throws Untrusted {
        NtfsRecord.Attribute first = data.first();
        Untrusted.unless(first.dataBytes() >= 0 && first.writtenBytes() >= 0, "its length makes no sense");
        List<FilePiece> out = new ArrayList<>();
        int cluster = volume.geometry().clusterBytes();
        long written = first.packed() ? first.dataBytes() : Math.min(first.dataBytes(), first.writtenBytes());
        long at = 0;
        for (NtfsRuns.Run run : data.runs().runs()) {
            long length = Math.min(written - at, run.count() * cluster);
            if (length <= 0) {
                break;
            }
            out.add(new FilePiece(run.cluster() == NtfsRuns.HOLE ? FilePiece.ZEROS : start + run.cluster() * cluster, length));
            at += length;
        }
        Untrusted.unless(at == written, "its runs end before it does");
        if (at < first.dataBytes()) {
            out.add(new FilePiece(FilePiece.ZEROS, first.dataBytes() - at));
        }
        return out;
    }

    @Override
    public InputStream content(FileEntry file) throws IOException {
        try {
            NtfsVolume.Stream data = data(file);
            NtfsRecord.Attribute first = data.first();
            if (first.resident()) {
                return new ByteArrayInputStream(data.holder().content().slice(first.at(), first.end() - first.at()));
            }
            return first.packed() ? new NtfsUnpacked(volume, data, file) : new FileContent(source, file, placed(data));
        } catch (Untrusted nonsense) {
            throw FileTree.damaged(file, nonsense.getMessage());
        }
    }
}
