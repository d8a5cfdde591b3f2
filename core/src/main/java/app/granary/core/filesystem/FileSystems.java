package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import java.io.IOException;

/** Tells what lies in a stretch of a disk. */
public final class FileSystems {
    /** Enough for the signatures below; the furthest, Btrfs, lies at 65 600. */
    private static final int PROBE_BYTES = 128 * 1024;

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
        if (FatGeometry.looksLikeFat(head)) {
            return FatReader.read(source, startBytes, sizeBytes, head);
        }
        return recognised(head);
    }

    private static FileSystem recognised(Bytes head) {
        if (head.matches(3, "NTFS    ")) {
            return whole("ntfs", "NTFS is recognised and not yet read block by block");
        }
        if (head.matches(3, "EXFAT   ")) {
            return whole("exfat", "exFAT is recognised and not yet read block by block");
        }
        if (head.matches(3, "-FVE-FS-")) {
            return whole("encrypted", "the volume is encrypted, so every block counts as used");
        }
        if (head.length() >= 6 && head.matches(0, "LUKS") && head.u8(4) == 0xBA && head.u8(5) == 0xBE) {
            return whole("luks", "the volume is encrypted (LUKS), so every block counts as used");
        }
        if (head.matches(0, "XFSB")) {
            return whole("xfs", "XFS is recognised and not yet read block by block");
        }
        if (head.matches(65536 + 64, "_BHRfS_M")) {
            return whole("btrfs", "Btrfs is recognised and not yet read block by block");
        }
        if (head.matches(32, "NXSB")) {
            return whole("apfs", "APFS is recognised and not yet read block by block");
        }
        if (head.matches(1024, "H+") || head.matches(1024, "HX")) {
            return whole("hfsplus", "HFS+ is recognised and not yet read block by block");
        }
        if (head.matches(3, "ReFS")) {
            return whole("refs", "ReFS is recognised and not yet read block by block");
        }
        if (head.matches(512, "LABELONE")) {
            return whole("lvm", "the partition belongs to a volume group, whose volumes are not yet read one by one");
        }
        if (head.matches(4096 - 10, "SWAPSPACE2")) {
            return whole("swap", "swap space is recognised and not yet left out");
        }
        return whole("unknown", "no file system known to Granary was found in it");
    }

    private static FileSystem whole(String kind, String reason) {
        return new FileSystem.Whole(kind, reason);
    }
}
