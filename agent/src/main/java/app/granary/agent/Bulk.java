package app.granary.agent;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.HttpURLConnection;
import java.net.InetAddress;
import java.net.Socket;
import java.net.URI;
import java.util.Optional;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import javax.net.ssl.HttpsURLConnection;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLSocket;
import javax.net.ssl.SSLSocketFactory;

/**
 * Bytes in bulk to and from the office, a request for each piece, over connections that are kept. By Java's older client: for pieces of
 * some MiB it needs half the processor's time of the newer one. Safe for several threads.
 */
final class Bulk {
    private static final int CONNECT_MILLIS = 20_000;
    /** An answer that has not begun by then is none: a connection may be dead without either side having been told. */
    private static final int ANSWER_MILLIS = 15_000;
    /** A piece that is not through by then is given up; over the slowest network it takes seconds. */
    private static final long PIECE_SECONDS = 60;
    private static final int LONGEST_ANSWER = 16 << 20;
    private static final ScheduledExecutorService WATCH = Executors.newSingleThreadScheduledExecutor(work -> {
        Thread thread = new Thread(work, "granary-bulk-watch");
        thread.setDaemon(true);
        return thread;
    });

    private final URI address;
    private final String token;
    private final SSLSocketFactory sockets;

    /** What the office answered. */
    record Answer(int status, byte[] body) {
    }

    /** @param context that knows the office, and nobody else */
    Bulk(URI address, SSLContext context, String[] ciphers, String token) {
        this.address = address;
        this.token = token;
        this.sockets = new Sockets(context.getSocketFactory(), ciphers);
    }

    /** @throws IOException when there was no answer; then nothing is known of what became of it */
    Answer get(String path) throws IOException {
        return exchange(path, Optional.empty());
    }

    /** Likewise. */
    Answer put(String path, byte[] bytes) throws IOException {
        return exchange(path, Optional.of(bytes));
    }

    private Answer exchange(String path, Optional<byte[]> bytes) throws IOException {
        HttpsURLConnection line = (HttpsURLConnection) address.resolve(path).toURL().openConnection(java.net.Proxy.NO_PROXY);
        line.setSSLSocketFactory(sockets);
        line.setHostnameVerifier((name, session) -> true); // the office is known by its certificate, whatever it is called
        line.setConnectTimeout(CONNECT_MILLIS);
        line.setReadTimeout(ANSWER_MILLIS);
        line.setInstanceFollowRedirects(false);
        line.setRequestProperty("Authorization", "Bearer " + token);
        ScheduledFuture<?> late = WATCH.schedule(line::disconnect, PIECE_SECONDS, TimeUnit.SECONDS);
        try {
            if (bytes.isPresent()) {
                line.setRequestMethod("PUT");
                line.setDoOutput(true);
                line.setFixedLengthStreamingMode(bytes.get().length);
                try (OutputStream out = line.getOutputStream()) {
                    out.write(bytes.get());
                }
            }
            return answer(line);
        } catch (IOException broken) {
            line.disconnect();
            throw broken;
        } finally {
            late.cancel(false);
        }
    }

    private static Answer answer(HttpURLConnection line) throws IOException {
        int status = line.getResponseCode();
        try (InputStream in = status < 400 ? line.getInputStream() : line.getErrorStream()) {
            return new Answer(status, in == null ? new byte[0] : in.readNBytes(LONGEST_ANSWER));
        }
    }

    /** Whose sockets speak with the office's ciphers, and wait for no network when they are closed. */
    private static final class Sockets extends SSLSocketFactory {
        private static final int LINGER_SECONDS = 1;

        private final SSLSocketFactory by;
        private final String[] ciphers;

        Sockets(SSLSocketFactory by, String[] ciphers) {
            this.by = by;
            this.ciphers = ciphers.clone();
        }

        private Socket set(Socket made) throws IOException {
            SSLSocket socket = (SSLSocket) made;
            socket.setEnabledProtocols(new String[] {"TLSv1.3"});
            socket.setEnabledCipherSuites(ciphers);
            socket.setSoLinger(true, LINGER_SECONDS); // else closing waits for a writer that waits for a cable
            return socket;
        }

        @Override
        public String[] getDefaultCipherSuites() {
            return ciphers.clone();
        }

        @Override
        public String[] getSupportedCipherSuites() {
            return ciphers.clone();
        }

        @Override
        public Socket createSocket(Socket plain, String host, int port, boolean closes) throws IOException {
            return set(by.createSocket(plain, host, port, closes));
        }

        @Override
        public Socket createSocket() throws IOException {
            return set(by.createSocket());
        }

        @Override
        public Socket createSocket(String host, int port) throws IOException {
            return set(by.createSocket(host, port));
        }

        @Override
        public Socket createSocket(String host, int port, InetAddress local, int localPort) throws IOException {
            return set(by.createSocket(host, port, local, localPort));
        }

        @Override
        public Socket createSocket(InetAddress host, int port) throws IOException {
            return set(by.createSocket(host, port));
        }

        @Override
        public Socket createSocket(InetAddress host, int port, InetAddress local, int localPort) throws IOException {
            return set(by.createSocket(host, port, local, localPort));
        }
    }
}
