package app.granary.bench;

import app.granary.core.disk.BlockSource;
import java.nio.ByteBuffer;
import java.util.Random;
import java.util.SplittableRandom;

/**
 * A disk that is made up as it is read: runs of text, programs, media, ciphertext, database pages and nothing, in a mix of its own. Text
 * and programs are real files of this machine.
 */
final class MixedDisk implements BlockSource {
    private static final int PIECE = 64 << 10;
    private static final int KINDS = 6;

    private final int pieces;
    private final byte[] kindOf;
    private final byte[] text;
    private final byte[] programs;
    private final long seed;

    /**
     * @param seed decides the mix and the order
     * @param text and programs: some tens of MiB of each
     */
    MixedDisk(long seed, long sizeBytes, byte[] text, byte[] programs) {
        this.seed = seed;
        this.text = text;
        this.programs = programs;
        this.pieces = (int) (sizeBytes / PIECE);
        this.kindOf = new byte[pieces];
        Random random = new Random(seed);
        double[] share = new double[KINDS];
        double all = 0;
        for (int k = 0; k < KINDS; k++) {
            // some kinds are hardly there, others are most of the disk
            share[k] = Math.pow(random.nextDouble(), 3);
            all += share[k];
        }
        for (int at = 0; at < pieces;) {
            double pick = random.nextDouble() * all;
            int kind = 0;
            while (kind < KINDS - 1 && (pick -= share[kind]) > 0) {
                kind++;
            }
            // files from some kB to some hundred MB
            int run = (int) Math.min(pieces - at, 1 + Math.exp(random.nextGaussian() * 2 + 1.5));
            java.util.Arrays.fill(kindOf, at, at + run, (byte) kind);
            at += run;
        }
    }

    @Override
    public String name() {
        return "made up disk " + seed;
    }

    @Override
    public long sizeBytes() {
        return (long) pieces * PIECE;
    }

    @Override
    public int sectorBytes() {
        return 512;
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) {
        byte[] piece = new byte[PIECE];
        long at = offsetBytes;
        while (into.hasRemaining()) {
            int index = (int) (at / PIECE);
            int skip = (int) (at % PIECE);
            int length = Math.min(PIECE - skip, into.remaining());
            fill(index, piece);
            into.put(piece, skip, length);
            at += length;
        }
    }

    private void fill(int index, byte[] piece) {
        SplittableRandom random = new SplittableRandom(seed * 1_000_003 + index);
        switch (kindOf[index]) {
            case 0 -> System.arraycopy(text, random.nextInt(text.length - PIECE), piece, 0, PIECE);
            case 1 -> System.arraycopy(programs, random.nextInt(programs.length - PIECE), piece, 0, PIECE);
            case 2, 3 -> random.nextBytes(piece);
            case 4 -> pages(random, piece);
            default -> java.util.Arrays.fill(piece, (byte) 0);
        }
    }

    /** Database pages: a header, rows of counters and short words, the rest of each page free. */
    private static void pages(SplittableRandom random, byte[] piece) {
        java.util.Arrays.fill(piece, (byte) 0);
        for (int page = 0; page < piece.length; page += 8192) {
            int end = page + 1024 + random.nextInt(7000);
            int row = random.nextInt(1 << 20);
            for (int at = page + 24; at + 40 < end; at += 40) {
                ByteBuffer.wrap(piece, at, 12).putInt(row++).putLong(1_700_000_000_000L + random.nextInt(1 << 28));
                for (int i = 12; i < 30; i++) {
                    piece[at + i] = (byte) ('a' + random.nextInt(10));
                }
            }
        }
    }
}
