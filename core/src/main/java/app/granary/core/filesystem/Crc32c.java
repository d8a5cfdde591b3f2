package app.granary.core.filesystem;

/**
 * CRC-32C (Castagnoli, reflected polynomial 0x82F63B78) without the final inversion and with a seed, as ext4 uses it. The JDK's
 * {@link java.util.zip.CRC32C} cannot be seeded; where no seed is needed, it is used instead.
 */
final class Crc32c {
    private static final int[] TABLE = new int[256];

    static {
        for (int i = 0; i < 256; i++) {
            int crc = i;
            for (int bit = 0; bit < 8; bit++) {
                crc = (crc & 1) != 0 ? crc >>> 1 ^ 0x82F63B78 : crc >>> 1;
            }
            TABLE[i] = crc;
        }
    }

    private Crc32c() {
    }

    static int update(int seed, byte[] content) {
        return update(seed, content, 0, content.length);
    }

    static int update(int seed, byte[] content, int from, int to) {
        int crc = seed;
        for (int i = from; i < to; i++) {
            crc = crc >>> 8 ^ TABLE[(crc ^ content[i]) & 0xFF];
        }
        return crc;
    }
}
