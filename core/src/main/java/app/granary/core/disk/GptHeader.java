package app.granary.core.disk;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.zip.CRC32;

/**
 * One of the two headers of a GUID partition table with its entries, checked. UEFI Specification 2.10, section 5.3.2, table 5-5: <pre>
 * offset size field 0 8 Signature "EFI PART" 8 4 Revision 12 4 HeaderSize, 92 to the sector 16 4 HeaderCRC32, over HeaderSize bytes with
 * this field zero 24 8 MyLBA 32 8 AlternateLBA 40 8 FirstUsableLBA 48 8 LastUsableLBA (inclusive) 56 16 DiskGUID 72 8 PartitionEntryLBA 80
 * 4 NumberOfPartitionEntries 84 4 SizeOfPartitionEntry, 128 x 2^n 88 4 PartitionEntryArrayCRC32 </pre> Entry (table 5-6): type GUID 0,
 * unique GUID 16, first LBA 32, last LBA 40 (inclusive), attributes 48, name 56 (72 bytes UTF-16LE).
 *
 * @param alternateLba where it says the other header lies
 * @param entriesCrc   checksum of the entries, for comparing the two copies
 */
record GptHeader(long alternateLba, long firstUsableLba, long lastUsableLba, String diskGuid, int entryCount, long entriesCrc,
    List<Partition> partitions) {
    static final String SIGNATURE = "EFI PART";
    static final int REVISION_1_0 = 0x0001_0000;
    static final int HEADER_BYTES = 92;
    static final int ENTRY_BYTES = 128;
    static final int NAME_BYTES = 72;
    private static final int MAX_ENTRY_BYTES = 4096;
    /** More entries than any tool writes; bounds what is read before a number from the disk is believed. */
    static final int MAX_ENTRIES = 4096;
    private static final String UNUSED = "00000000-0000-0000-0000-000000000000";

    /**
     * @param lba sector of the header, within the disk
     * @throws Unsound when header or entries cannot be trusted
     */
    static GptHeader read(BlockSource source, long lba) throws IOException, Unsound {
        int sector = source.sectorBytes();
        long at = lba * sector;
        Bytes header = Bytes.read(source, at, sector);
        if (!header.matches(0, SIGNATURE)) {
            throw Unsound.at(source, at, SIGNATURE, "other bytes", "a GPT is announced, but its header is not there");
        }
        long headerSize = header.u32(12);
        if (headerSize < HEADER_BYTES || headerSize > sector) {
            throw Unsound.at(source, at + 12, HEADER_BYTES + " to " + sector, "" + headerSize,
                "the GPT header gives itself an impossible length");
        }
        byte[] content = header.slice(0, (int) headerSize);
        content[16] = content[17] = content[18] = content[19] = 0;
        requireEqual(source, at + 16, crc(content), header.u32(16), "the GPT header's checksum is wrong");
        if (header.i64(24) != lba) {
            throw Unsound.at(source, at + 24, "" + lba, "" + header.i64(24), "the GPT header says it lies in another sector");
        }
        return entries(source, at, header);
    }

    private static GptHeader entries(BlockSource source, long at, Bytes header) throws IOException, Unsound {
        int sector = source.sectorBytes();
        long sectors = source.sizeBytes() / sector;
        long firstUsable = header.i64(40);
        long lastUsable = header.i64(48);
        long entriesLba = header.i64(72);
        long count = header.u32(80);
        long entryBytes = header.u32(84);
        if (entryBytes < ENTRY_BYTES || entryBytes > MAX_ENTRY_BYTES || Long.bitCount(entryBytes) != 1) {
            throw Unsound.at(source, at + 84, "128 x a power of two", "" + entryBytes, "the GPT gives an impossible entry length");
        }
        if (count > MAX_ENTRIES) {
            throw Unsound.at(source, at + 80, "at most " + MAX_ENTRIES, "" + count, "the GPT gives an impossible number of entries");
        }
        if (entriesLba < 2 || entriesLba > sectors - (count * entryBytes + sector - 1) / sector) {
            throw Unsound.at(source, at + 72, "a sector of this disk", "" + entriesLba,
                "the GPT entries are said to lie past the end of the disk");
        }
        if (firstUsable < 0 || lastUsable < firstUsable - 1 || lastUsable >= sectors) {
            throw Unsound.at(source, at + 48, "at most " + (sectors - 1), "" + lastUsable,
                "the GPT speaks of a longer disk than this one: the file is cut short, or was copied from a larger disk");
        }
        Bytes entries = Bytes.read(source, entriesLba * sector, (int) (count * entryBytes));
        long entriesCrc = header.u32(88);
        requireEqual(source, at + 88, crc(entries.slice(0, entries.length())), entriesCrc, "the checksum of the GPT entries is wrong");
        List<Partition> partitions = partitions(entries, (int) count, (int) entryBytes, new Usable(firstUsable, lastUsable), source,
            entriesLba * sector);
        Overlaps.refuse(source.name(), partitions);
        return new GptHeader(header.i64(32), firstUsable, lastUsable, header.guid(56), (int) count, entriesCrc, partitions);
    }

    /** Sectors partitions may lie in. */
    private record Usable(long first, long last) {
    }

    /** @param at where the entries begin on the disk */
    private static List<Partition> partitions(Bytes entries, int count, int entryBytes, Usable usable, BlockSource source, long at)
        throws Unsound {
        int sector = source.sectorBytes();
        List<Partition> partitions = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            int entry = i * entryBytes;
            if (entries.guid(entry).equals(UNUSED)) {
                continue;
            }
            long first = entries.i64(entry + 32);
            long last = entries.i64(entry + 40);
            if (first < usable.first || last < first || last > usable.last) {
                throw Unsound.at(source, at + entry + 32, "sectors " + usable.first + " to " + usable.last,
                    first + " to " + last,
                    "GPT entry " + (i + 1) + " lies outside the usable sectors");
            }
            partitions.add(new Partition(i + 1, first * sector, (last - first + 1) * sector, PartitionType.of(entries.guid(entry)),
                entries.text(entry + 56, NAME_BYTES, StandardCharsets.UTF_16LE), entries.guid(entry + 16), entries.i64(entry + 48), false));
        }
        return partitions;
    }

    private static void requireEqual(BlockSource source, long offset, long computed, long stored, String what) throws Unsound {
        if (computed != stored) {
            throw Unsound.at(source, offset, hex(computed), hex(stored), what);
        }
    }

    static long crc(byte[] content) {
        CRC32 crc = new CRC32();
        crc.update(ByteBuffer.wrap(content));
        return crc.getValue();
    }

    private static String hex(long value) {
        return String.format(Locale.ROOT, "%08X", value);
    }
}
