package app.granary.core.disk;

import app.granary.core.fault.Fault;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.zip.CRC32;

/**
 * The primary GUID partition table. UEFI Specification 2.10, section 5.3.2, table 5-5:
 * <pre>
 *  offset size field
 *   0     8   Signature "EFI PART"
 *   8     4   Revision
 *  12     4   HeaderSize, 92 to the sector
 *  16     4   HeaderCRC32, over HeaderSize bytes with this field zero
 *  24     8   MyLBA
 *  32     8   AlternateLBA
 *  40     8   FirstUsableLBA
 *  48     8   LastUsableLBA (inclusive)
 *  56    16   DiskGUID
 *  72     8   PartitionEntryLBA
 *  80     4   NumberOfPartitionEntries
 *  84     4   SizeOfPartitionEntry, 128 x 2^n
 *  88     4   PartitionEntryArrayCRC32
 * </pre>
 * Entry (table 5-6): type GUID 0, unique GUID 16, first LBA 32, last LBA 40 (inclusive), attributes 48, name 56 (72 bytes UTF-16LE).
 */
final class GptReader {
    static final String SIGNATURE = "EFI PART";
    private static final int MIN_HEADER = 92;
    private static final int ENTRY_BYTES = 128;
    private static final int MAX_ENTRY_BYTES = 4096;
    /** More entries than any tool writes; bounds what is read before a number from the disk is believed. */
    private static final int MAX_ENTRIES = 4096;
    private static final String UNUSED = "00000000-0000-0000-0000-000000000000";

    private final BlockSource source;
    private final long headerAt;

    GptReader(BlockSource source) {
        this.source = source;
        this.headerAt = source.sectorBytes();
    }

    PartitionTable read() throws IOException {
        int sector = source.sectorBytes();
        if (source.sizeBytes() < 3L * sector) {
            return damaged(headerAt, "a header", "the end of the disk", "the disk ends before its GPT header");
        }
        Bytes header = Bytes.read(source, headerAt, sector);
        if (!header.matches(0, SIGNATURE)) {
            return damaged(headerAt, SIGNATURE, "other bytes", "the protective MBR announces a GPT, but its header is not there");
        }
        long headerSize = header.u32(12);
        if (headerSize < MIN_HEADER || headerSize > sector) {
            return damaged(headerAt + 12, MIN_HEADER + " to " + sector, "" + headerSize, "the GPT header gives itself an impossible length");
        }
        byte[] content = header.slice(0, (int) headerSize);
        long stored = header.u32(16);
        content[16] = content[17] = content[18] = content[19] = 0;
        long computed = crc(ByteBuffer.wrap(content));
        if (stored != computed) {
            return damaged(headerAt + 16, hex(computed), hex(stored), "the GPT header's checksum is wrong");
        }
        return readEntries(header);
    }

    private PartitionTable readEntries(Bytes header) throws IOException {
        int sector = source.sectorBytes();
        long sectors = source.sizeBytes() / sector;
        long firstUsable = header.i64(40);
        long lastUsable = header.i64(48);
        long entriesLba = header.i64(72);
        long count = header.u32(80);
        long entryBytes = header.u32(84);
        if (entryBytes < ENTRY_BYTES || entryBytes > MAX_ENTRY_BYTES || Long.bitCount(entryBytes) != 1) {
            return damaged(headerAt + 84, "128 x a power of two", "" + entryBytes, "the GPT gives an impossible entry length");
        }
        if (count > MAX_ENTRIES) {
            return damaged(headerAt + 80, "at most " + MAX_ENTRIES, "" + count, "the GPT gives an impossible number of entries");
        }
        if (entriesLba < 2 || entriesLba > sectors - (count * entryBytes + sector - 1) / sector) {
            return damaged(headerAt + 72, "a sector of this disk", "" + entriesLba, "the GPT entries are said to lie past the end of the disk");
        }
        if (firstUsable < 0 || lastUsable < firstUsable - 1 || lastUsable >= sectors) {
            return damaged(headerAt + 48, "at most " + (sectors - 1), "" + lastUsable,
                "the GPT speaks of a longer disk than this one: the file is cut short, or was copied from a larger disk");
        }
        Bytes entries = Bytes.read(source, entriesLba * sector, (int) (count * entryBytes));
        long stored = header.u32(88);
        long computed = crc(ByteBuffer.wrap(entries.slice(0, entries.length())));
        if (stored != computed) {
            return damaged(headerAt + 88, hex(computed), hex(stored), "the checksum of the GPT entries is wrong");
        }
        List<Partition> partitions = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            int at = (int) (i * entryBytes);
            if (entries.guid(at).equals(UNUSED)) {
                continue;
            }
            long first = entries.i64(at + 32);
            long last = entries.i64(at + 40);
            if (first < firstUsable || last < first || last > lastUsable) {
                return damaged(entriesLba * sector + at + 32, "sectors " + firstUsable + " to " + lastUsable, first + " to " + last,
                    "GPT entry " + (i + 1) + " lies outside the usable sectors");
            }
            partitions.add(new Partition(i + 1, first * sector, (last - first + 1) * sector, PartitionType.of(entries.guid(at)),
                entries.text(at + 56, 72, StandardCharsets.UTF_16LE), entries.guid(at + 16), entries.i64(at + 48), false));
        }
        Optional<PartitionTable> overlap = Overlaps.check("gpt", source.name(), partitions);
        long entriesEnd = entriesLba * sector + count * entryBytes;
        return overlap.orElseGet(() -> new PartitionTable.Gpt(header.guid(56), firstUsable, lastUsable, entriesEnd, partitions));
    }

    private PartitionTable damaged(long offset, String expected, String found, String what) {
        return new PartitionTable.Damaged("gpt", Fault.damaged(source.name(), offset, expected, found, source.name() + ": " + what
            + " (byte " + offset + ", expected " + expected + ", found " + found + "). Mend the table with a partition editor, or capture every block."));
    }

    private static long crc(ByteBuffer content) {
        CRC32 crc = new CRC32();
        crc.update(content);
        return crc.getValue();
    }

    private static String hex(long value) {
        return String.format(Locale.ROOT, "%08X", value);
    }
}
