package app.granary.core.filesystem;

/**
 * CRC-16 (polynomial 0x8005, reflected: 0xA001), which ext4's older group checksums use (kernel documentation, "Block Group Descriptors").
 */
final class Crc16 {
    private Crc16() {
    }

    static int update(int seed, byte[] content, int from, int to) {
        int crc = seed;
        for (int i = from; i < to; i++) {
            crc ^= content[i] & 0xFF;
            for (int bit = 0; bit < 8; bit++) {
                crc = (crc & 1) != 0 ? crc >>> 1 ^ 0xA001 : crc >>> 1;
            }
        }
        return crc;
    }
}
