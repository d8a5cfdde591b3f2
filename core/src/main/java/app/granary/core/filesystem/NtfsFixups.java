package app.granary.core.filesystem;

import app.granary.core.disk.Bytes;

/**
 * Multi-sector protection of NTFS records: the last two bytes of every 512 are replaced by a number that was the same in all of them when
 * the record was written as a whole; the bytes themselves are kept in an array whose place is given at 4 and length at 6.
 */
final class NtfsFixups {
    private static final int STRIDE = 512;

    private NtfsFixups() {
    }

    /** Puts the bytes back; false when the record was torn, or gives itself an impossible array. */
    static boolean apply(byte[] record) {
        Bytes raw = Bytes.of(record);
        int array = raw.u16(4);
        int count = raw.u16(6);
        if (count != record.length / STRIDE + 1 || array < 8 || array + 2 * count > STRIDE) {
            return false;
        }
        for (int i = 1; i < count; i++) {
            int end = i * STRIDE - 2;
            if (raw.u16(end) != raw.u16(array)) {
                return false;
            }
            record[end] = record[array + 2 * i];
            record[end + 1] = record[array + 2 * i + 1];
        }
        return true;
    }
}
