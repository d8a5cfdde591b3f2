package app.granary.core.filesystem;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.HexFormat;

/**
 * An NTFS of 8 000 clusters of 512 bytes in memory, record by record, for what no tool of the system makes: attributes spread over records.
 */
final class SmallNtfs {
    static final int CLUSTERS = 8000;
    private static final int CLUSTER = 512;
    private static final int RECORD = 1024;
    private static final int MFT_CLUSTER = 10;
    private static final int FIXUPS = 48;
    private static final int FIRST = 56;

    final MemoryDisk disk = new MemoryDisk(CLUSTERS * CLUSTER + CLUSTER);

    SmallNtfs() {
        disk.text(3, "NTFS    ").u16(11, 512).u8(13, 1).u32(40, CLUSTERS).u32(48, MFT_CLUSTER).u8(64, 2).u8(68, 8).u16(510, 0xAA55);
        record(0, spread(0x80, 0, "11200A"));
        record(2);
        record(3, resident(0x70, "", new byte[12]));
    }

    /** An attribute whose runs are given in hexadecimal, without the end of the list. */
    static byte[] spread(int type, long firstVcn, String runs) {
        byte[] list = HexFormat.of().parseHex(runs + "00");
        int length = (64 + list.length + 7) / 8 * 8;
        ByteBuffer out = ByteBuffer.allocate(length).order(ByteOrder.LITTLE_ENDIAN);
        out.putInt(0, type).putInt(4, length).put(8, (byte) 1).putLong(16, firstVcn).putShort(32, (short) 64).putLong(48, 1 << 20);
        return out.put(64, list).array();
    }

    static byte[] resident(int type, String name, byte[] value) {
        byte[] wide = name.getBytes(StandardCharsets.UTF_16LE);
        int at = 24 + (wide.length + 7) / 8 * 8;
        int length = (at + value.length + 7) / 8 * 8;
        ByteBuffer out = ByteBuffer.allocate(length).order(ByteOrder.LITTLE_ENDIAN);
        out.putInt(0, type).putInt(4, length).put(9, (byte) name.length()).putShort(10, (short) 24).putInt(16, value.length).putShort(20,
            (short) at);
        return out.put(24, wide).put(at, value).array();
    }

    /** A row of an attribute list: the piece of an attribute from a cluster on lies in a record. */
    static byte[] listed(int type, long firstVcn, long record) {
        return ByteBuffer.allocate(32).order(ByteOrder.LITTLE_ENDIAN).putInt(0, type).putShort(4, (short) 32).put(7, (byte) 26)
            .putLong(8, firstVcn).putLong(16, record | 1L << 48).array();
    }

    static byte[] joined(byte[]... parts) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (byte[] part : parts) {
            out.writeBytes(part);
        }
        return out.toByteArray();
    }

    /** A root directory with one name in it. */
    static byte[] directory(String name, long record) {
        byte[] wide = name.getBytes(StandardCharsets.UTF_16LE);
        int entry = (16 + 66 + wide.length + 7) / 8 * 8;
        ByteBuffer out = ByteBuffer.allocate(32 + entry + 16).order(ByteOrder.LITTLE_ENDIAN);
        out.putInt(16, 16).putInt(20, 16 + entry + 16);
        out.putLong(32, record | 1L << 48).putShort(40, (short) entry).putLong(48, 5).put(32 + 16 + 64, (byte) name.length())
            .put(32 + 16 + 66, wide);
        return out.putShort(32 + entry + 8, (short) 16).putShort(32 + entry + 12, (short) 2).array();
    }

    static byte[] fileName() {
        return resident(0x30, "", ByteBuffer.allocate(66).order(ByteOrder.LITTLE_ENDIAN).putLong(0, 5).array());
    }

    SmallNtfs record(int number, byte[]... attributes) {
        ByteBuffer out = ByteBuffer.allocate(RECORD).order(ByteOrder.LITTLE_ENDIAN);
        byte[] all = joined(attributes);
        out.put(0, "FILE".getBytes(StandardCharsets.US_ASCII)).putShort(4, (short) FIXUPS).putShort(6, (short) 3).putShort(16, (short) 1)
            .putShort(20, (short) FIRST).putShort(22, (short) 1);
        out.put(FIRST, all).putInt(FIRST + all.length, -1).putInt(24, FIRST + all.length + 8);
        out.putShort(FIXUPS, (short) 7);
        for (int i = 1; i <= 2; i++) {
            out.putShort(FIXUPS + 2 * i, out.getShort(i * 512 - 2)).putShort(i * 512 - 2, (short) 7);
        }
        disk.text(MFT_CLUSTER * CLUSTER + number * RECORD, new String(out.array(), StandardCharsets.ISO_8859_1));
        return this;
    }

    /** Fills a cluster of the map. */
    SmallNtfs map(int cluster, int value) {
        for (int i = 0; i < CLUSTER; i++) {
            disk.u8(cluster * CLUSTER + i, value);
        }
        return this;
    }

    FileSystem read() throws java.io.IOException {
        return FileSystems.probe(disk, 0, disk.sizeBytes());
    }
}
