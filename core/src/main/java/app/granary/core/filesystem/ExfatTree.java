package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/**
 * Files of exFAT. A file is a set of entries of 32 bytes: 0x85 with attributes 4, last change 12, its hundredths 21 and its zone 23
 * (quarters of an hour, when bit 7 is set); 0xC0 with flags 1 (bit 1: no chain), length of the name 3, written length 8, first cluster 20,
 * length 24; 0xC1 with 15 characters of the name each at 2 (exFAT file system specification 1.00, sections 7.4, 7.6 and 7.7).
 */
final class ExfatTree implements FileTree {
    private static final int ENTRY = 32;
    private static final int FILE = 0x85;
    private static final int STREAM = 0xC0;
    private static final int NAME = 0xC1;
    private static final int DIRECTORY = 0x10;
    private static final int NO_CHAIN = 0x2;
    private static final int NAME_CHARACTERS = 15;

    private final BlockSource source;
    private final long start;
    private final ExfatGeometry geometry;
    private final ClusterChain chain;

    ExfatTree(BlockSource source, long start, ExfatGeometry geometry) {
        this.source = source;
        this.start = start;
        this.geometry = geometry;
        this.chain = new ClusterChain(source, start + geometry.fatStart(), (geometry.clusters() + 2) * 4, 32, 0xFFFF_FFFFL,
            geometry.clusters());
    }

    /** A file as its entries are read. */
    private static final class Reading {
        private int attributes;
        private Instant modifiedAt = Instant.EPOCH;
        private int flags;
        private int nameLength;
        private long written;
        private long cluster;
        private long bytes;
        private final StringBuilder name = new StringBuilder();

        boolean whole() {
            return nameLength > 0 && name.length() >= nameLength;
        }
    }

    @Override
    public FileEntry root() {
        return new FileEntry("", FileEntry.Kind.FOLDER, 0, Instant.EPOCH, "", FileEntry.Id.of(geometry.rootCluster()));
    }

    @Override
    public List<FileEntry> list(FileEntry folder) throws IOException {
        List<FileEntry> out = new ArrayList<>();
        Reading[] now = {new Reading()};
        for (FilePiece piece : folder.id().oneAfterOther() ? pieces(folder) : chain(folder)) {
            for (long at = 0; at < piece.lengthBytes(); at += geometry.clusterBytes()) {
                Bytes directory = Bytes.read(source, piece.atBytes() + at, (int) Math.min(geometry.clusterBytes(),
                    piece.lengthBytes() - at));
                if (!entries(directory, now, out)) {
                    return out;
                }
                if (out.size() > MOST_ENTRIES) {
                    throw FileTree.damaged(folder, "it holds more names than a folder can");
                }
            }
        }
        return out;
    }

    /** A folder ends with its chain, whatever length is noted. */
    private List<FilePiece> chain(FileEntry folder) throws IOException {
        List<FilePiece> out = new ArrayList<>();
        try {
            chain.walk(folder.id().number(), cluster -> out.add(new FilePiece(at(cluster), geometry.clusterBytes())));
        } catch (Untrusted nonsense) {
            throw FileTree.damaged(folder, nonsense.getMessage());
        }
        return out;
    }

    private long at(long cluster) {
        return start + geometry.heapStart() + (cluster - 2) * geometry.clusterBytes();
    }

    private static boolean entries(Bytes directory, Reading[] now, List<FileEntry> out) {
        for (int at = 0; at + ENTRY <= directory.length(); at += ENTRY) {
            switch (directory.u8(at)) {
                case 0 -> {
                    return false;
                }
                case FILE -> {
                    now[0] = new Reading();
                    now[0].attributes = directory.u16(at + 4);
                    now[0].modifiedAt = moment(directory, at);
                }
                case STREAM -> {
                    now[0].flags = directory.u8(at + 1);
                    now[0].nameLength = directory.u8(at + 3);
                    now[0].written = directory.i64(at + 8);
                    now[0].cluster = directory.u32(at + 20);
                    now[0].bytes = directory.i64(at + 24);
                }
                case NAME -> {
                    now[0].name.append(new String(directory.slice(at + 2, 2 * NAME_CHARACTERS), StandardCharsets.UTF_16LE));
                    if (now[0].whole()) {
                        out.add(entry(now[0]));
                        now[0] = new Reading();
                    }
                }
                default -> {
                    // of the volume, or deleted
                }
            }
        }
        return true;
    }

    private static Instant moment(Bytes directory, int at) {
        int zone = directory.u8(at + 23);
        int quarters = (zone & 0x80) == 0 ? 0 : (zone & 0x40) == 0 ? zone & 0x7F : (zone & 0x7F) - 128;
        return FatTree.moment(directory.u16(at + 14), directory.u16(at + 12), Math.min(199, directory.u8(at + 21)))
            .minusSeconds(quarters * 900L);
    }

    private static FileEntry entry(Reading read) {
        boolean folder = (read.attributes & DIRECTORY) != 0;
        boolean sense = read.bytes >= 0 && read.written >= 0 && read.written <= read.bytes;
        return new FileEntry(read.name.substring(0, read.nameLength), folder ? FileEntry.Kind.FOLDER : FileEntry.Kind.FILE,
            sense ? read.bytes : 0, read.modifiedAt, sense ? "" : "its length makes no sense",
            new FileEntry.Id(read.cluster, (read.flags & NO_CHAIN) != 0));
    }

    @Override
    public InputStream content(FileEntry file) throws IOException {
        return new FileContent(source, file, pieces(file));
    }

    @Override
    public List<FilePiece> pieces(FileEntry file) throws IOException {
        if (!file.unreadable().isEmpty()) {
            throw FileTree.damaged(file, file.unreadable());
        }
        if (!file.id().oneAfterOther()) {
            return FatTree.chained(chain, file, at(2), geometry.clusterBytes());
        }
        long clusters = (file.bytes() + geometry.clusterBytes() - 1) / geometry.clusterBytes();
        long first = file.id().number();
        if (file.bytes() > 0 && (first < 2 || clusters > geometry.clusters() + 2 - first)) {
            throw FileTree.damaged(file, "it leads outside the file system");
        }
        return file.bytes() == 0 ? List.of() : List.of(new FilePiece(at(first), file.bytes()));
    }
}
