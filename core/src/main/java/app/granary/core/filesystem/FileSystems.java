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
        if (head.length() >= 2048 && head.u16(1024 + 0x38) == 0xEF53) {
            return ExtReader.read(source, startBytes, sizeBytes, Bytes.of(head.slice(1024, 1024)));
        }
        if (NtfsGeometry.looksLikeNtfs(head)) {
            return NtfsReader.read(source, startBytes, sizeBytes, head);
        }
        if (ExfatGeometry.looksLikeExfat(head)) {
            return ExfatReader.read(source, startBytes, sizeBytes, head);
        }
        if (FatGeometry.looksLikeFat(head)) {
            return FatReader.read(source, startBytes, sizeBytes, head);
        }
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
