package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Optional;

/**
 * The folders and files of one file system (ext2, ext3, ext4, NTFS, FAT, exFAT), read and never written. What it says is not trusted: a
 * folder or a file that makes no sense is refused with a {@link app.granary.core.fault.FaultException}, and nothing past the partition is
 * read.
 */
public interface FileTree {
    /** More than these in one folder are told as damage. */
    int MOST_ENTRIES = 2_000_000;

    /** The folder that holds all others. Its name is an empty string. */
    FileEntry root();

    /** In the order the folder has them, without itself and the folder above. */
    List<FileEntry> list(FileEntry folder) throws IOException;

    /** The same, where what a name stands for is read only when it is asked for. */
    default FileNames names(FileEntry folder) throws IOException {
        return FileNames.of(list(folder));
    }

    /** One name in a folder, as the folder writes it; empty when it has none. */
    default Optional<FileEntry> find(FileEntry folder, String name) throws IOException {
        return list(folder).stream().filter(each -> each.name().equals(name)).findFirst();
    }

    /**
     * Where the bytes of a file lie, from its first to its last; together as long as it is. Of one that its file system packs: where the
     * packed bytes lie, each unit of them followed by zeros.
     */
    List<FilePiece> pieces(FileEntry file) throws IOException;

    /** Its bytes. Closing it closes nothing else. */
    InputStream content(FileEntry file) throws IOException;

    /**
     * @param startBytes first byte of the partition
     * @param sizeBytes  its length; the whole of it lies within the source
     * @throws app.granary.core.fault.FaultException with the reason, when nothing can be told of what lies there
     */
    static FileTree of(BlockSource source, long startBytes, long sizeBytes) throws IOException {
        try {
            Bytes head = Bytes.read(source, startBytes, (int) Math.min(Signature.BYTES, sizeBytes));
            return switch (Signature.of(head)) {
                case EXT -> new ExtTree(source, startBytes, ExtSuperblock.read(ExtSuperblock.within(head), sizeBytes));
                case NTFS -> new NtfsTree(source, startBytes, new NtfsVolume(source, startBytes, NtfsGeometry.read(head, sizeBytes)));
                case EXFAT -> new ExfatTree(source, startBytes, ExfatGeometry.read(head, sizeBytes));
                case FAT -> new FatTree(source, startBytes, FatGeometry.read(head, sizeBytes));
                case NONE -> throw unread(source, startBytes, sizeBytes);
            };
        } catch (Untrusted nonsense) {
            throw Fault.of(Fault.Kind.DAMAGED, source.name(), "The files there cannot be shown: " + nonsense.getMessage() + ".")
                .asException();
        }
    }

    private static IOException unread(BlockSource source, long startBytes, long sizeBytes) throws IOException {
        String kind = FileSystems.kind(source, startBytes, sizeBytes);
        return Fault.of(Fault.Kind.UNSUPPORTED, source.name(), "The files there cannot be shown: " + (kind.equals(FileSystems.UNKNOWN)
            ? "no file system is recognised." : "files of " + kind + " are not read yet. Serve the image as a disk and mount that."))
            .asException();
    }

    /** What a file's bytes cannot be read for: damage is told by the file's own bytes, everything else as it is. */
    static IOException onDamage(FileEntry file, long at, long count, FaultException failed) {
        return failed.fault().kind() == Fault.Kind.DAMAGED ? damaged(file, "among its bytes from " + at + " to " + (at + count)
            + " some are damaged. An older image may have it sound") : failed;
    }

    /** A folder or file that makes no sense. */
    static IOException damaged(FileEntry entry, String why) {
        return Fault.of(Fault.Kind.DAMAGED, entry.name(), (entry.name().isEmpty() ? "The topmost folder" : "\"" + entry.name() + "\"")
            + " cannot be read: " + why + ".").asException();
    }
}
