package app.granary.core.filesystem;

import app.granary.core.disk.Bytes;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/**
 * One record of the master file table with its attributes, checked. Record: magic "FILE" 0, sequence 16, first attribute 20, flags 22 (1 =
 * in use), bytes in use 24, base record 32. Attribute: type 0, length 4, non-resident 8, name length 9, name offset 10, then resident:
 * value length 16, value offset 20; non-resident: first VCN 16, runs offset 32, unit of packing 34 (a power of 2, in clusters), data size
 * 48, written size 56 (from memory; checked against ntfsinfo, ntfscluster and ntfscat).
 */
record NtfsRecord(long number, int sequence, boolean inUse, List<Attribute> attributes, Bytes content) {
    static final int VOLUME_INFORMATION = 0x70;
    static final int ATTRIBUTE_LIST = 0x20;
    static final int FILE_NAME = 0x30;
    static final int DATA = 0x80;
    static final int INDEX_ROOT = 0x90;
    static final int INDEX_ALLOCATION = 0xA0;
    static final int BITMAP = 0xB0;
    /** Of an attribute's flags at 12. */
    private static final int PACKED = 0xFF;
    private static final int MOST_UNIT = 10;
    private static final long END = 0xFFFF_FFFFL;

    /**
     * @param at        offset of its value within the record when resident, of its runs when not
     * @param end       end of that
     * @param firstVcn  first cluster of the attribute these runs tell of; 0 when resident
     * @param dataBytes length of the whole value; only the piece with VCN 0 tells it
     * @param writtenBytes as far as it was written, zeros behind; as dataBytes
     * @param unitClusters clusters packed together; 0 when it is not packed
     */
    record Attribute(int type, String name, boolean resident, int at, int end, long firstVcn, long dataBytes, long writtenBytes,
        int unitClusters) {
        boolean packed() {
            return unitClusters > 0;
        }
    }

    /** @param raw a whole record; changed by putting its protected bytes back */
    static NtfsRecord read(long number, byte[] raw) throws Untrusted {
        Bytes record = Bytes.of(raw);
        Untrusted.unless(record.matches(0, "FILE"), "record " + number + " of its file table is not one");
        Untrusted.unless(NtfsFixups.apply(raw), "record " + number + " of its file table was not written whole");
        int used = (int) Math.min(raw.length, record.u32(24));
        List<Attribute> attributes = new ArrayList<>();
        int at = record.u16(20);
        while (at + 8 <= used && record.u32(at) != END) {
            long length = record.u32(at + 4);
            Untrusted.unless(length >= 24 && length % 8 == 0 && length <= used - at,
                "an attribute in record " + number + " of its file table runs past its end");
            attributes.add(attribute(record, at, (int) length, number));
            at += (int) length;
        }
        return new NtfsRecord(number, record.u16(16), (record.u16(22) & 1) != 0, attributes, record);
    }

    private static Attribute attribute(Bytes record, int at, int length, long number) throws Untrusted {
        int nameLength = record.u8(at + 9) * 2;
        int nameAt = record.u16(at + 10);
        Untrusted.unless(nameLength == 0 || nameAt + nameLength <= length,
            "an attribute's name in record " + number + " of its file table runs past its end");
        String name = nameLength == 0 ? "" : record.text(at + nameAt, nameLength, StandardCharsets.UTF_16LE);
        boolean resident = record.u8(at + 8) == 0;
        if (resident) {
            long value = record.u32(at + 16);
            int valueAt = record.u16(at + 20);
            Untrusted.unless(valueAt + value <= length, "a value in record " + number + " of its file table runs past its end");
            return new Attribute((int) record.u32(at), name, true, at + valueAt, (int) (at + valueAt + value), 0, value, value,
                0);
        }
        Untrusted.unless(length >= 64, "an attribute in record " + number + " of its file table is too short");
        int runsAt = record.u16(at + 32);
        Untrusted.unless(runsAt >= 64 && runsAt <= length, "the runs in record " + number + " of its file table lie outside it");
        int power = (record.u16(at + 12) & PACKED) == 0 ? 0 : record.u16(at + 34);
        Untrusted.unless(power <= MOST_UNIT, "a value in record " + number + " of its file table is packed in impossible units");
        return new Attribute((int) record.u32(at), name, false, at + runsAt, at + length, record.i64(at + 16), record.i64(at + 48),
            record.i64(at + 56), power == 0 ? 0 : 1 << power);
    }

    /** The attributes of a type and name; several when its runs did not fit into one. */
    List<Attribute> all(int type, String name) {
        return attributes.stream().filter(a -> a.type() == type && a.name().equals(name)).toList();
    }
}
