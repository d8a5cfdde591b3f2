package app.granary.core.disk;

import java.io.IOException;
import java.util.OptionalLong;

/** Reads a disk's partition table, whichever it has. */
public final class PartitionTables {
    private static final int[] SECTORS = {512, 4096};

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
        if (!signed) {
            return gptSectorBytes(source) > 0 ? new GptReader(source, first).read() : new PartitionTable.Absent();
        }
        if (isFileSystemBootSector(first)) {
            return new PartitionTable.Absent();
        }
        boolean announced = MbrRecord.all(first).stream().anyMatch(record -> record.type() == MbrRecord.PROTECTIVE);
        return announced ? new GptReader(source, first).read() : new MbrReader(source).read(first);
    }

    /**
     * The logical sector a raw file was partitioned with: the one at which a GPT header lies, else 512. A GPT written for 512-byte sectors
     * is not readable at 4096 and the other way round.
     */
    public static int sectorBytes(BlockSource source) throws IOException {
        int found = gptSectorBytes(source);
        return found > 0 ? found : 512;
    }

    /**
     * How long the disk was that a GPT was made for, by its primary header, which tells where the backup lies: in the last sector (UEFI
     * Specification 2.10, section 5.3.1). For when only the start of a disk is at hand.
     *
     * @param start the disk's first bytes
     * @return empty without a GPT, or when its header says what cannot be
     */
    public static OptionalLong gptDiskBytes(Bytes start) {
        for (int sector : SECTORS) {
            if (start.length() >= 2 * sector && start.matches(sector, GptHeader.SIGNATURE)) {
                long last = start.i64(sector + 32);
                return last > 2 && last < Long.MAX_VALUE / sector - 1 ? OptionalLong.of((last + 1) * sector) : OptionalLong.empty();
            }
        }
        return OptionalLong.empty();
    }

    /**
     * The sector size at which a GPT header is found, in front or, where the front of the disk was wiped, at its end; 0 when there is none.
     */
    private static int gptSectorBytes(BlockSource source) throws IOException {
        for (int sector : SECTORS) {
            if (source.sizeBytes() >= 3L * sector && Bytes.read(source, sector, 8).matches(0, GptHeader.SIGNATURE)) {
                return sector;
            }
        }
        for (int sector : SECTORS) {
            if (source.sizeBytes() >= 68L * sector && source.sizeBytes() % sector == 0
                && Bytes.read(source, source.sizeBytes() - sector, 8).matches(0, GptHeader.SIGNATURE)
                && frontIsWipedOrProtective(source, sector)) {
                return sector;
            }
        }
        return 0;
    }

    /** A backup alone proves little: a file system may have been made over an old table, and then something lies in front. */
    private static boolean frontIsWipedOrProtective(BlockSource source, int sector) throws IOException {
        Bytes front = Bytes.read(source, 0, 34 * sector);
        if (front.u16(510) == 0xAA55 && MbrRecord.all(front).stream().anyMatch(record -> record.type() == MbrRecord.PROTECTIVE)) {
            return true;
        }
        for (byte each : front.slice(0, front.length())) {
            if (each != 0) {
                return false;
            }
        }
        return true;
    }

    /** A boot sector of FAT, NTFS or exFAT carries 55 AA too: told by the jump at 0 and a name or geometry that only they have. */
    private static boolean isFileSystemBootSector(Bytes sector) {
        boolean jump = sector.u8(0) == 0xEB && sector.u8(2) == 0x90 || sector.u8(0) == 0xE9;
        if (!jump) {
            return false;
        }
        int sectorBytes = sector.u16(11);
        int copies = sector.u8(16);
        boolean fat = sectorBytes >= 512 && sectorBytes <= 4096 && Integer.bitCount(sectorBytes) == 1 && (copies == 1 || copies == 2)
            && sector.u8(21) >= 0xF0;
        return fat || sector.matches(3, "NTFS    ") || sector.matches(3, "EXFAT   ");
    }
}
