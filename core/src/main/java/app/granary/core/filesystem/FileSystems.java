package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import java.io.IOException;

/** Tells what lies in a stretch of a disk. */
public final class FileSystems {
    /** The kind of what no signature tells. */
    public static final String UNKNOWN = "unknown";
    /** Enough for all signatures; the furthest, Btrfs, lies at 65 600. */
    private static final int PROBE_BYTES = 128 * 1024;
    /** A swap header fills a page of the machine that made it; its mark is the page's last ten bytes. */
    private static final int[] SWAP_PAGES = {4096, 8192, 16384, 32768, 65536};

    private FileSystems() {
    }

    /**
     * @param startBytes first byte of the partition
     * @param sizeBytes  its length; the whole of it must lie within the source
     * @throws IOException only when the device fails; bytes that make no sense give {@link FileSystem.Whole}
     */
    public static FileSystem probe(BlockSource source, long startBytes, long sizeBytes) throws IOException {
        Bytes head = Bytes.read(source, startBytes, (int) Math.min(PROBE_BYTES, sizeBytes));
        return switch (Signature.of(head)) {
            case EXT -> ExtReader.read(source, startBytes, sizeBytes, ExtSuperblock.within(head));
            case NTFS -> NtfsReader.read(source, startBytes, sizeBytes, head);
            case EXFAT -> ExfatReader.read(source, startBytes, sizeBytes, head);
            case FAT -> FatReader.read(source, startBytes, sizeBytes, head);
            case NONE -> other(source, startBytes, sizeBytes, head);
        };
    }

    /** The kind alone, by the first bytes: no map of blocks is read, which of a large disk would take long. */
    public static String kind(BlockSource source, long startBytes, long sizeBytes) throws IOException {
        Bytes head = Bytes.read(source, startBytes, (int) Math.min(PROBE_BYTES, sizeBytes));
        return switch (Signature.of(head)) {
            case EXT -> ExtSuperblock.kind(ExtSuperblock.within(head), sizeBytes);
            case NTFS -> "ntfs";
            case EXFAT -> "exfat";
            case FAT -> "vfat";
            case NONE -> other(source, startBytes, sizeBytes, head).kind();
        };
    }

    private static FileSystem other(BlockSource source, long startBytes, long sizeBytes, Bytes head) throws IOException {
        for (int page : SWAP_PAGES) {
            if (head.matches(page - 10, "SWAPSPACE2")) {
                return new FileSystem.Swap(page, sizeBytes);
            }
            if (head.matches(page - 10, "S1SUSPEND")) {
                return new FileSystem.Whole("swap", "the swap area holds a suspended system");
            }
        }
        return Recognised.of(source, startBytes, sizeBytes, head);
    }
}
