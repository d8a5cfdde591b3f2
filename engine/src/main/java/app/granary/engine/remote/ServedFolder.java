package app.granary.engine.remote;

import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.bag.LockFile;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.Folders;
import app.granary.engine.verify.PartsRead;
import app.granary.engine.verify.Verification;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.FileStore;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * The near end: one folder of this machine, to be read, or read and written, by another. Trusts no path: whatever would lead out of the
 * folder, or through a link, is refused. Safe for several threads; calls are done one after the other.
 */
public final class ServedFolder implements RemoteFiles, Closeable {
    private static final int MOST_NAMES = 20_000;
    private static final int MOST_OPEN = 4;

    /** What is asked before anything is written. */
    public interface Gate {
        /** @throws app.granary.core.fault.FaultException when nothing may be written now */
        void require() throws IOException;
    }

    private final Bounds bounds;
    private final Optional<Gate> writing;
    private final Map<Path, LockFile> locks = new HashMap<>();
    private final Map<String, FileChannel> open = new LinkedHashMap<>(MOST_OPEN, 0.75f, true);
    private boolean closed;

    /**
     * @param root    a folder that exists
     * @param images  the folder in it, relative, that the image lies in; empty for the folder itself
     * @param name    of the one image it is served for, finished or unfinished; nothing beside it is read or written
     * @param writing asked before anything is written; empty for a folder that may only be read
     */
    public ServedFolder(Path root, String images, String name, Optional<Gate> writing) throws IOException {
        this.bounds = new Bounds(root.toRealPath(), images, name);
        this.writing = writing;
    }

    /** The folder in it that the image lies in, relative; empty for the root. */
    public String images() {
        return bounds.images();
    }

    private static IOException refused(String path, String why) {
        return Bounds.refused(path, why);
    }

    /** @throws app.granary.core.fault.FaultException when it is nothing that is served */
    private Path inside(String path) throws IOException {
        if (closed) {
            throw refused(path, "That folder is not served any more.");
        }
        return bounds.inside(path);
    }

    private Path writable(String path) throws IOException {
        if (!bounds.ofTheImage(path)) {
            throw refused(path, "Only the image " + bounds.name() + " is written there.");
        }
        Path out = inside(path);
        writing.orElseThrow(() -> refused(path, "That folder is only read.")).require();
        return out;
    }

    @Override
    public synchronized Optional<Entry> entry(String path) throws IOException {
        try {
            BasicFileAttributes is = Files.readAttributes(inside(path), BasicFileAttributes.class, LinkOption.NOFOLLOW_LINKS);
            return is.isDirectory() || is.isRegularFile()
                ? Optional.of(new Entry(is.isDirectory(), is.isDirectory() ? 0 : is.size(), is.lastModifiedTime().toMillis()))
                : Optional.empty();
        } catch (NoSuchFileException none) {
            return Optional.empty();
        }
    }

    @Override
    public synchronized List<String> names(String folder) throws IOException {
        try (Stream<Path> entries = Files.list(inside(folder))) {
            return entries.limit(MOST_NAMES).map(each -> each.getFileName().toString()).sorted().toList();
        }
    }

    @Override
    public synchronized byte[] read(String path, long at, int most) throws IOException {
        if (at < 0 || most < 1 || most > MOST) {
            throw refused(path, "Nobody reads " + most + " bytes at " + at + ".");
        }
        FileChannel channel = channel(path, false);
        ByteBuffer out = ByteBuffer.allocate((int) Math.max(0, Math.min(most, channel.size() - at)));
        while (out.hasRemaining() && channel.read(out, at + out.position()) >= 0) {
            continue;
        }
        return out.hasRemaining() ? java.util.Arrays.copyOf(out.array(), out.position()) : out.array();
    }

    @Override
    public synchronized void open(String path, Open how) throws IOException {
        Path file = writable(path);
        shut(path);
        if (how == Open.MADE && Files.exists(file) && LockFile.isOurs(file)) {
            return; // opening and closing it would give it back
        }
        switch (how) {
            case NEW -> FileChannel.open(file, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE, LinkOption.NOFOLLOW_LINKS).close();
            case MADE -> FileChannel.open(file, StandardOpenOption.CREATE, StandardOpenOption.WRITE, LinkOption.NOFOLLOW_LINKS).close();
            case THERE -> FileChannel.open(file, StandardOpenOption.WRITE, LinkOption.NOFOLLOW_LINKS).close();
            default -> FileChannel.open(file, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE,
                LinkOption.NOFOLLOW_LINKS).close();
        }
    }

    @Override
    public synchronized void write(String path, long at, byte[] bytes) throws IOException {
        writable(path);
        if (at < 0 || bytes.length > MOST) {
            throw refused(path, "Nobody writes " + bytes.length + " bytes at " + at + ".");
        }
        FileChannel channel = channel(path, true);
        if (at > channel.size()) {
            throw refused(path, "\"" + path + "\" has " + channel.size() + " bytes; nothing is written at " + at + ", behind a gap.");
        }
        ByteBuffer from = ByteBuffer.wrap(bytes);
        while (from.hasRemaining()) {
            channel.write(from, at + from.position());
        }
    }

    /** Files stay open from piece to piece; only a few at once. */
    private FileChannel channel(String path, boolean toWrite) throws IOException {
        String key = (toWrite ? "w" : "r") + path;
        FileChannel known = open.get(key);
        if (known != null && known.isOpen()) {
            return known;
        }
        FileChannel fresh = FileChannel.open(inside(path), Set.of(toWrite ? StandardOpenOption.WRITE : StandardOpenOption.READ,
            LinkOption.NOFOLLOW_LINKS));
        open.put(key, fresh);
        while (open.size() > MOST_OPEN) {
            String oldest = open.keySet().iterator().next();
            open.remove(oldest).close();
        }
        return fresh;
    }

    private void shut(String path) throws IOException {
        for (String key : List.of("r" + path, "w" + path)) {
            FileChannel known = open.remove(key);
            if (known != null) {
                known.close();
            }
        }
    }

    @Override
    public synchronized void truncate(String path, long bytes) throws IOException {
        writable(path);
        channel(path, true).truncate(bytes);
    }

    @Override
    public synchronized void force(String path) throws IOException {
        Path there = inside(path);
        if (Files.isDirectory(there, LinkOption.NOFOLLOW_LINKS)) {
            Folders.sync(there);
        } else {
            channel(path, writing.isPresent()).force(true);
        }
    }

    @Override
    public synchronized void makeFolder(String path) throws IOException {
        Files.createDirectory(writable(path));
    }

    @Override
    public synchronized void delete(String path) throws IOException {
        Path there = inside(path);
        if (!bounds.ofTheImage(path) || writing.isEmpty()) {
            throw refused(path, "That folder is only read."); // what is removed needs no room, so the gate is not asked
        }
        shut(path);
        Files.delete(there);
    }

    @Override
    public synchronized void move(String from, String to, boolean replacing) throws IOException {
        shutAll();
        Path target = writable(to);
        Path source = writable(from);
        if (!replacing && Files.exists(target, LinkOption.NOFOLLOW_LINKS)) {
            throw new java.nio.file.FileAlreadyExistsException(to); // a rename alone would replace an empty folder
        }
        Files.move(source, target, StandardCopyOption.ATOMIC_MOVE);
    }

    @Override
    public synchronized Room room() throws IOException {
        FileStore store = Files.getFileStore(bounds.root());
        return new Room(store.getTotalSpace(), store.getUsableSpace());
    }

    @Override
    public synchronized boolean lock(String path) throws IOException {
        Path file = writable(path);
        if (locks.containsKey(file)) {
            return true;
        }
        Optional<LockFile> got = LockFile.takeNow(file);
        got.ifPresent(each -> locks.put(file, each));
        return got.isPresent();
    }

    @Override
    public synchronized void unlock(String path) throws IOException {
        LockFile held = locks.remove(inside(path));
        if (held != null) {
            held.close();
        }
    }

    /** Not one after the other with the rest: it takes long, and only reads. */
    @Override
    public CheckOutcome prove(String bag, Passphrase passphrase, ProofLevel level, Watch watch) throws IOException {
        return Verification.run(new Bag(inside(bag), passphrase), level, watch);
    }

    @Override
    public PartsRead readParts(String bag, Passphrase passphrase, String imageJson, Watch watch) throws IOException {
        try (InputStream in = Files.newInputStream(inside(imageJson), LinkOption.NOFOLLOW_LINKS)) {
            return Verification.readParts(new Bag(inside(bag), passphrase), ImageJson.read(in, bag), watch);
        }
    }

    private void shutAll() throws IOException {
        for (FileChannel channel : open.values()) {
            channel.close();
        }
        open.clear();
    }

    /** Gives back all that is open and locked; nothing more is served. */
    @Override
    public synchronized void close() throws IOException {
        closed = true;
        shutAll();
        for (LockFile held : locks.values()) {
            held.close();
        }
        locks.clear();
    }
}
