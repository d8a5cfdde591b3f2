package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.layout.Placed;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/**
 * What boot sectors say of where their partition begins, for one that moves. FAT: BPB_HiddSec at 28, the backup named by BPB_BkBootSec at
 * 50 (FAT specification 1.03). NTFS: hidden sectors at 28, total sectors at 40, the backup in the sector behind them (common practice, no
 * source). exFAT: PartitionOffset at 64, a checksum over eleven sectors in the twelfth, a second set behind it (exFAT specification,
 * sections 3.1 and 3.4). A field that did not say the old place is left as it is.
 */
final class BootSectors {
    private static final int HIDDEN = 28;
    private static final int FAT_BACKUP = 50;
    private static final int NTFS_TOTAL = 40;
    private static final int EXFAT_OFFSET = 64;
    private static final int EXFAT_SECTORS = 12;

    private BootSectors() {
    }

    static List<Patch> moved(BlockSource image, Placed each) throws IOException {
        int sector = image.sectorBytes();
        long size = each.copiedBytes();
        List<Patch> out = new ArrayList<>();
        if (size < (long) sector * EXFAT_SECTORS * 2) {
            return out;
        }
        ByteBuffer boot = read(image, each.from().startBytes(), sector);
        String name = new String(boot.array(), 3, 8, StandardCharsets.US_ASCII);
        if (name.equals("EXFAT   ")) {
            exfat(image, each, out);
        } else if (name.startsWith("NTFS")) {
            hidden(image, each, 0, out);
            long backup = boot.getLong(NTFS_TOTAL);
            if (backup > 0 && backup < size / sector) {
                hidden(image, each, backup * sector, out);
            }
        } else if (each.fileSystem().equals("vfat")) {
            hidden(image, each, 0, out);
            int backup = Short.toUnsignedInt(boot.getShort(FAT_BACKUP));
            boolean fat32 = boot.getShort(22) == 0;
            if (fat32 && backup > 0 && backup < size / sector) {
                hidden(image, each, (long) backup * sector, out);
            }
        }
        return out;
    }

    private static ByteBuffer read(BlockSource image, long at, int bytes) throws IOException {
        ByteBuffer out = ByteBuffer.allocate(bytes).order(ByteOrder.LITTLE_ENDIAN);
        image.read(at, out);
        return out.rewind();
    }

    private static void hidden(BlockSource image, Placed each, long within, List<Patch> out) throws IOException {
        int sector = image.sectorBytes();
        ByteBuffer boot = read(image, each.from().startBytes() + within, sector);
        long was = each.from().startBytes() / sector;
        long is = each.to().startBytes() / sector;
        boolean bootSector = boot.getShort(510) == (short) 0xAA55;
        if (bootSector && Integer.toUnsignedLong(boot.getInt(HIDDEN)) == was && is <= 0xFFFF_FFFFL) {
            out.add(new Patch(each.to().startBytes() + within + HIDDEN, little(4).putInt((int) is).array()));
        }
    }

    private static ByteBuffer little(int bytes) {
        return ByteBuffer.allocate(bytes).order(ByteOrder.LITTLE_ENDIAN);
    }

    private static void exfat(BlockSource image, Placed each, List<Patch> out) throws IOException {
        int sector = image.sectorBytes();
        for (int region = 0; region < 2; region++) {
            long within = (long) region * EXFAT_SECTORS * sector;
            ByteBuffer set = read(image, each.from().startBytes() + within, EXFAT_SECTORS * sector);
            if (set.getLong(EXFAT_OFFSET) != each.from().startBytes() / sector) {
                continue;
            }
            set.putLong(EXFAT_OFFSET, each.to().startBytes() / sector);
            int sum = 0;
            for (int i = 0; i < (EXFAT_SECTORS - 1) * sector; i++) {
                if (i != 106 && i != 107 && i != 112) {
                    sum = Integer.rotateRight(sum, 1) + Byte.toUnsignedInt(set.get(i));
                }
            }
            ByteBuffer sums = little(sector);
            while (sums.hasRemaining()) {
                sums.putInt(sum);
            }
            out.add(new Patch(each.to().startBytes() + within + EXFAT_OFFSET, little(8).putLong(each.to().startBytes() / sector).array()));
            out.add(new Patch(each.to().startBytes() + within + (long) (EXFAT_SECTORS - 1) * sector, sums.array()));
        }
    }
}
