package app.granary.bench;

import com.github.luben.zstd.ZstdCompressCtx;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Locale;
import java.util.stream.IntStream;

/**
 * What the length of a chunk costs and gives: stored size, and the time to compress on all cores. For docs/decisions; no figure here is a
 * goal.
 */
final class ChunkSizeBench {
    private static final int[] KIB = {64, 128, 256, 512, 1024, 2048, 4096, 8192};
    private static final int BYTES = 160 << 20;
    private static final int ROUNDS = 3;

    private ChunkSizeBench() {
    }

    /** @param disk of whose start 160 MiB that are no zeros are compressed, each length in turn, in memory */
    static void run(Path disk) throws IOException {
        byte[] content = content(disk);
        long[] stored = new long[KIB.length];
        double[] seconds = new double[KIB.length];
        Arrays.fill(seconds, Double.MAX_VALUE);
        for (int round = 0; round <= ROUNDS; round++) {
            for (int i = 0; i < KIB.length; i++) {
                long began = System.nanoTime();
                stored[i] = stored(content, KIB[i] << 10);
                double took = (System.nanoTime() - began) / 1e9;
                seconds[i] = round == 0 ? seconds[i] : Math.min(seconds[i], took);
            }
        }
        int mib = Arrays.binarySearch(KIB, 1024);
        System.out.println("chunk, KiB    stored to 1 MiB    time to 1 MiB");
        for (int i = 0; i < KIB.length; i++) {
            System.out.printf(Locale.ROOT, "%10d    %15.4f    %13.3f%n", KIB[i], (double) stored[i] / stored[mib],
                seconds[i] / seconds[mib]);
        }
    }

    private static byte[] content(Path disk) throws IOException {
        byte[] out = new byte[BYTES];
        byte[] piece = new byte[1 << 20];
        int at = 0;
        try (RandomAccessFile file = new RandomAccessFile(disk.toFile(), "r")) {
            for (int count = file.read(piece); count == piece.length && at < BYTES; count = file.read(piece)) {
                if (!Arrays.equals(piece, new byte[piece.length])) {
                    System.arraycopy(piece, 0, out, at, piece.length);
                    at += piece.length;
                }
            }
        }
        return Arrays.copyOf(out, at);
    }

    private static long stored(byte[] content, int length) {
        ThreadLocal<ZstdCompressCtx> coders = ThreadLocal.withInitial(() -> new ZstdCompressCtx().setLevel(3).setChecksum(true));
        return IntStream.range(0, (content.length + length - 1) / length).parallel().mapToLong(chunk -> coders.get()
            .compress(Arrays.copyOfRange(content, chunk * length, Math.min(content.length, (chunk + 1) * length))).length).sum();
    }
}
