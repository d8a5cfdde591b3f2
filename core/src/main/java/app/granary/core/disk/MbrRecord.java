package app.granary.core.disk;

import java.util.ArrayList;
import java.util.List;

/**
 * One of the four 16-byte records at offset 446 of a master boot record or of a link in the chain of logical partitions. UEFI Specification
 * 2.10, section 5.2.1, table 5-2: boot indicator 0, starting CHS 1, type 4, ending CHS 5, first LBA 8 (u32), sectors 12 (u32).
 *
 * @param at the record's offset within its sector
 */
record MbrRecord(int at, int boot, int type, long firstSector, long sectors) {
    static final int FIRST = 446;
    static final int BYTES = 16;
    static final int COUNT = 4;
    static final int PROTECTIVE = 0xEE;

    static MbrRecord of(Bytes sector, int index) {
        int at = FIRST + BYTES * index;
        return new MbrRecord(at, sector.u8(at), sector.u8(at + 4), sector.u32(at + 8), sector.u32(at + 12));
    }

    static List<MbrRecord> all(Bytes sector) {
        List<MbrRecord> out = new ArrayList<>();
        for (int i = 0; i < COUNT; i++) {
            out.add(of(sector, i));
        }
        return out;
    }

    /** Its place in the sector, from 1: the number of a primary partition. */
    int number() {
        return (at - FIRST) / BYTES + 1;
    }

    boolean empty() {
        return type == 0 || sectors == 0;
    }
}
