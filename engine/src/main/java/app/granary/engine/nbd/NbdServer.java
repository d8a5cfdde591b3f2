package app.granary.engine.nbd;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Sparse;
import app.granary.core.fault.Fault;
import java.io.Closeable;
import java.io.IOException;
import java.net.BindException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.SocketAddress;
import java.net.StandardProtocolFamily;
import java.net.URLEncoder;
import java.net.UnixDomainSocketAddress;
import java.nio.channels.ClosedChannelException;
import java.nio.channels.ServerSocketChannel;
import java.nio.channels.SocketChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/**
 * One disk, or an image as the disk it was made of, for programs that read disks by the open NBD protocol (fixed newstyle). It is only
 * read. Safe for several threads.
 */
public final class NbdServer implements Closeable {
    /** Whoever comes while so many are served already is turned away. */
    private static final int MOST = 64;
    private static final long LEAVES_MILLIS = 5000;

    private final ServerSocketChannel door;
    private final SocketAddress address;
    private final NbdExport export;
    private final Set<SocketChannel> served = ConcurrentHashMap.newKeySet();
    private final Thread answering;

    private NbdServer(ServerSocketChannel door, SocketAddress address, NbdExport export) {
        this.door = door;
        this.address = address;
        this.export = export;
        this.answering = start(this::answer, "granary-nbd");
    }

    /**
     * On loopback, where nobody but this machine reaches it.
     *
     * @param port   0 for any that is free
     * @param source stays its owner's to close; where it is {@link Sparse} that is told too
     */
    public static NbdServer onLoopback(int port, BlockSource source, String name) throws IOException {
        ServerSocketChannel door = ServerSocketChannel.open();
        try {
            door.bind(new InetSocketAddress(InetAddress.getLoopbackAddress(), port));
        } catch (BindException taken) {
            door.close();
            throw Fault.of(Fault.Kind.BAD_CHOICE, "port", "Port " + port + " is taken. Choose another, or none for one that is free.")
                .asException();
        }
        return new NbdServer(door, door.getLocalAddress(), new NbdExport(source, name));
    }

    /** At a path where nothing is yet, for this account alone; it goes when this is closed. */
    public static NbdServer onSocket(Path path, BlockSource source, String name) throws IOException {
        if (Files.exists(path)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, path.toString(), "There is something at " + path + " already. Remove it, or name another"
                + " path.").asException();
        }
        ServerSocketChannel door = ServerSocketChannel.open(StandardProtocolFamily.UNIX);
        Path made = path.resolveSibling(path.getFileName() + ".new");
        try {
            Files.deleteIfExists(made);
            door.bind(UnixDomainSocketAddress.of(made));
            Files.setPosixFilePermissions(made, PosixFilePermissions.fromString("rw-------"));
            Files.move(made, path); // whoever sees it there is answered
        } catch (IOException | IllegalArgumentException cannot) {
            door.close();
            throw Fault.of(Fault.Kind.BAD_CHOICE, path.toString(), "No socket can be made at " + path + " (" + cannot.getMessage()
                + "). Name a path in a folder that is there, of at most 100 characters.").asException();
        }
        return new NbdServer(door, UnixDomainSocketAddress.of(path), new NbdExport(source, name));
    }

    /** As other programs take it (https://github.com/NetworkBlockDevice/nbd/blob/master/doc/uri.md). */
    public String uri() {
        if (address instanceof UnixDomainSocketAddress unix) {
            return "nbd+unix:///" + encoded(export.name()) + "?socket=" + encoded(unix.getPath().toString());
        }
        return "nbd://127.0.0.1:" + ((InetSocketAddress) address).getPort() + "/" + encoded(export.name());
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20").replace("%2F", "/");
    }

    private interface Work {
        void run() throws IOException;
    }

    private static Thread start(Work work, String name) {
        Thread thread = new Thread(() -> {
            try {
                work.run();
            } catch (IOException gone) {
                // whoever read it has gone, or this was closed
            }
        }, name);
        thread.setDaemon(true);
        thread.start();
        return thread;
    }

    private void answer() throws IOException {
        while (door.isOpen()) {
            SocketChannel reader = door.accept();
            if (served.size() >= MOST) {
                reader.close();
                continue;
            }
            served.add(reader);
            start(() -> serve(reader), "granary-nbd-reader");
        }
    }

    private void serve(SocketChannel reader) throws IOException {
        try (reader) {
            new NbdSession(reader, export).run();
        } catch (ClosedChannelException closed) {
            // this was closed meanwhile
        } finally {
            served.remove(reader);
        }
    }

    /** Once this is over nobody can reach it any more: until the one who waits at the door has left, the system still lets in. */
    @Override
    public void close() throws IOException {
        door.close();
        try {
            answering.join(LEAVES_MILLIS);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
        for (SocketChannel each : served) {
            each.close();
        }
        if (address instanceof UnixDomainSocketAddress unix) {
            Files.deleteIfExists(unix.getPath());
        }
    }
}
