package app.granary.standins;

import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.ConnectException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicLong;

/** A stand-in for what lies between a computer and the office: it can be pulled, and carries no more than so many bytes a second. */
public final class Cable implements Closeable {
    private static final int PIECE = 64 << 10;

    private final ServerSocket near;
    private final int far;
    private final long bytesPerSecond;
    private final Set<Socket> through = ConcurrentHashMap.newKeySet();
    private final AtomicLong carriedToFar = new AtomicLong();
    private volatile boolean pulled;

    /**
     * @param far            port on loopback that it leads to
     * @param bytesPerSecond each way of each connection, more than 0
     */
    public Cable(int far, long bytesPerSecond) throws IOException {
        this.near = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
        this.far = far;
        this.bytesPerSecond = bytesPerSecond;
        start(() -> {
            while (!near.isClosed()) {
                Socket in = near.accept();
                if (pulled) {
                    in.close();
                } else {
                    lead(in);
                }
            }
        });
    }

    /** Whoever is at the far end may be away for a while. */
    private void lead(Socket in) throws IOException {
        try {
            Socket out = new Socket(InetAddress.getLoopbackAddress(), far);
            through.add(in);
            through.add(out);
            start(() -> carry(in, out, carriedToFar));
            start(() -> carry(out, in, new AtomicLong()));
        } catch (ConnectException away) {
            in.close();
        }
    }

    private interface Work {
        void run() throws IOException, InterruptedException;
    }

    private static void start(Work work) {
        Thread thread = new Thread(() -> {
            try {
                work.run();
            } catch (IOException | InterruptedException ended) {
                // a cable that was pulled
            }
        });
        thread.setDaemon(true);
        thread.start();
    }

    private void carry(Socket from, Socket to, AtomicLong carried) throws IOException, InterruptedException {
        byte[] piece = new byte[PIECE];
        try (from; to) {
            InputStream in = from.getInputStream();
            OutputStream out = to.getOutputStream();
            for (int count = in.read(piece); count >= 0; count = in.read(piece)) {
                out.write(piece, 0, count);
                carried.addAndGet(count);
                Thread.sleep(count * 1000L / bytesPerSecond);
            }
        }
    }

    /** Where it begins. */
    public int port() {
        return near.getLocalPort();
    }

    /** Bytes it has carried from those at the near end, as they went over it. */
    public long carriedToFar() {
        return carriedToFar.get();
    }

    /** Breaks all that goes through it, and lets nothing through from now on. */
    public void pull() throws IOException {
        pulled = true;
        for (Socket each : through) {
            each.close();
        }
        through.clear();
    }

    /** Lets things through again. */
    public void plug() {
        pulled = false;
    }

    @Override
    public void close() throws IOException {
        near.close();
        pull();
    }
}
