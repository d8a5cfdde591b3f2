package app.granary.agent;

import app.granary.core.machine.Network;
import app.granary.engine.remote.RemoteFiles;
import java.io.IOException;
import java.util.Random;

/**
 * What the network to the office carries, by a transfer of a second or two in each direction, over the same TLS and in such pieces as work
 * is carried in. Pieces grow until one takes long enough to be timed; of those of the last size the quickest counts, since a program that
 * has just been started enciphers its first bytes at a tenth of the pace of its later ones.
 */
final class Measuring {
    private static final String PATH = "/agents/network";
    private static final int FIRST = 64 << 10;
    private static final double LONG_ENOUGH_SECONDS = 0.2;
    private static final double ALL_SECONDS = 2;

    private final Office office;
    private final Random noise = new Random();

    Measuring(Office office) {
        this.office = office;
    }

    /** One transfer of so many bytes. */
    private interface Transfer {
        void of(int bytes) throws IOException, InterruptedException;
    }

    Network network() throws IOException, InterruptedException {
        return new Network(rate(this::up), rate(this::down));
    }

    private static long rate(Transfer transfer) throws IOException, InterruptedException {
        long began = System.nanoTime();
        int bytes = FIRST;
        double one = seconds(transfer, bytes);
        while (one < LONG_ENOUGH_SECONDS && bytes < RemoteFiles.MOST_MEASURED) {
            bytes *= 2;
            one = seconds(transfer, bytes);
        }
        double best = one;
        while ((System.nanoTime() - began) / 1e9 < ALL_SECONDS) {
            best = Math.min(best, seconds(transfer, bytes));
        }
        return Math.max(1, Math.round(bytes / best));
    }

    private static double seconds(Transfer transfer, int bytes) throws IOException, InterruptedException {
        long began = System.nanoTime();
        transfer.of(bytes);
        return Math.max(1e-6, (System.nanoTime() - began) / 1e9);
    }

    private void up(int bytes) throws IOException, InterruptedException {
        byte[] content = new byte[bytes];
        noise.nextBytes(content); // whatever lies between must not be able to shorten it
        require(office.bulk().put(PATH, content));
    }

    private void down(int bytes) throws IOException, InterruptedException {
        if (require(office.bulk().get(PATH + "?bytes=" + bytes)).body().length != bytes) {
            throw new IOException("the office sent other bytes than were asked for");
        }
    }

    private static Bulk.Answer require(Bulk.Answer answer) throws IOException {
        if (answer.status() >= 300) {
            throw new IOException("the office answered " + answer.status());
        }
        return answer;
    }
}
