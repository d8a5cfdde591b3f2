package app.granary.core.filesystem;

import app.granary.core.disk.Bytes;

/**
 * The compression of NTFS: chunks of 4096 bytes, each behind a head of 16 bits (length less 1 in the low 12, bit 15 for packed). A packed
 * chunk is a byte of flags for each eight tokens, the lowest first; a token is a byte, or where its flag is set 16 bits: how far back, and
 * how many. How many bits each has follows from how much of the chunk is out (MS-XCA, section 2.5).
 */
final class Lznt1 {
    private static final int CHUNK = 4096;
    private static final int SHORTEST = 3;

    private Lznt1() {
    }

    /**
     * @param length how much of the packed bytes is meant
     * @param out    filled; what is not told of reads as zeros
     */
    static void unpack(byte[] packed, int length, byte[] out) throws Untrusted {
        Bytes in = Bytes.of(packed);
        java.util.Arrays.fill(out, (byte) 0);
        int at = 0;
        for (int to = 0; to < out.length && at + 2 <= length && in.u16(at) != 0; to += CHUNK) {
            int head = in.u16(at);
            int end = at + 2 + (head & 0xFFF) + 1;
            Untrusted.unless(end <= length, "a packed piece of it runs past its end");
            int most = Math.min(out.length, to + CHUNK);
            if ((head & 0x8000) == 0) {
                System.arraycopy(packed, at + 2, out, to, Math.min(end - at - 2, most - to));
            } else {
                chunk(in, at + 2, end, out, to, most);
            }
            at = end;
        }
    }

    private static void chunk(Bytes in, int from, int end, byte[] out, int start, int most) throws Untrusted {
        int at = from;
        int to = start;
        while (at < end) {
            int flags = in.u8(at++);
            for (int bit = 0; bit < 8 && at < end; bit++) {
                if ((flags >> bit & 1) == 0) {
                    Untrusted.unless(to < most, "a packed piece of it is longer than it may be");
                    out[to++] = (byte) in.u8(at++);
                } else {
                    Untrusted.unless(at + 2 <= end, "a packed piece of it ends within a token");
                    to = copied(in.u16(at), out, start, to, most);
                    at += 2;
                }
            }
        }
    }

    private static int copied(int token, byte[] out, int start, int to, int most) throws Untrusted {
        int lengthBits = 12;
        for (int done = to - start - 1; done >= 16; done >>= 1) {
            lengthBits--;
        }
        int back = (token >> lengthBits) + 1;
        int count = (token & (1 << lengthBits) - 1) + SHORTEST;
        Untrusted.unless(back <= to - start && count <= most - to, "a packed piece of it leads outside itself");
        for (int i = 0; i < count; i++) {
            out[to + i] = out[to + i - back];
        }
        return to + count;
    }
}
