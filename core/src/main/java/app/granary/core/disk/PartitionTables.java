package app.granary.core.disk;

import java.io.IOException;

/** Reads a disk's partition table, whichever it has. */
public final class PartitionTables {
    private PartitionTables() {
    }

    /**
     * @param source a disk of at least one sector
     * @return the table, its absence, or its damage; never an exception for bytes that make no sense
     * @throws IOException when the device itself fails
     */
    public static PartitionTable read(BlockSource source) throws IOException {
        if (source.sizeBytes() < 512) {
            return new PartitionTable.Absent();
        }
        Bytes first = Bytes.read(source, 0, 512);
        boolean signed = first.u16(510) == 0xAA55;
        if (!signed || isFileSystemBootSector(first)) {
            return signatureAtSectorOne(source) && !signed ? new GptReader(source).read() : new PartitionTable.Absent();
        }
        for (int i = 0; i < 4; i++) {
            if (first.u8(446 + 16 * i + 4) == 0xEE) {
                return new GptReader(source).read();
            }
        }
        return new MbrReader(source).read(first);
    }

    /**
     * The logical sector a raw file was partitioned with: the one at which a GPT header lies, else 512. A GPT written for 512-byte
     * sectors is not readable at 4096 and the other way round.
     */
    public static int sectorBytes(BlockSource source) throws IOException {
        for (int sector : new int[] {512, 4096}) {
            if (source.sizeBytes() >= 2L * sector && Bytes.read(source, sector, 8).matches(0, GptReader.SIGNATURE)) {
                return sector;
            }
        }
        return 512;
    }

    private static boolean signatureAtSectorOne(BlockSource source) throws IOException {
        return source.sizeBytes() >= 3L * source.sectorBytes() && Bytes.read(source, source.sectorBytes(), 8).matches(0, GptReader.SIGNATURE);
    }

    /** A boot sector of FAT, NTFS or exFAT carries 55 AA too: told by the jump at 0 and a name or geometry that only they have. */
    private static boolean isFileSystemBootSector(Bytes sector) {
        boolean jump = sector.u8(0) == 0xEB && sector.u8(2) == 0x90 || sector.u8(0) == 0xE9;
        if (!jump) {
            return false;
        }
        int sectorBytes = sector.u16(11);
        int copies = sector.u8(16);
        boolean fat = sectorBytes >= 512 && sectorBytes <= 4096 && Integer.bitCount(sectorBytes) == 1 && (copies == 1 || copies == 2) && sector.u8(21) >= 0xF0;
        return fat || sector.matches(3, "NTFS    ") || sector.matches(3, "EXFAT   ");
    }
}
