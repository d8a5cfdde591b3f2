package app.granary.engine.remote;

import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.bag.ImageJsonWriter;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.verify.PartsRead;
import app.granary.engine.verify.RemoteProof;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.FileStore;
import java.nio.file.FileSystem;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.nio.file.WatchService;
import java.nio.file.attribute.UserPrincipalLookupService;
import java.nio.file.spi.FileSystemProvider;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;

/** A folder of another machine. It is closed by whoever carries its calls; until then it is used by any number of threads. */
public final class RemoteFileSystem extends FileSystem implements RemoteProof {
    /** What an image is to be, beside its parts for as long as they are read: for a disk of a terabyte it is 40 MB. */
    private static final String READING = "image.json.reading";

    private final String id = UUID.randomUUID().toString();
    private final RemoteFiles files;
    private final String where;
    private final Set<RemoteChannel> open = ConcurrentHashMap.newKeySet();

    /** @param where it is, for people: "the office" */
    public RemoteFileSystem(RemoteFiles files, String where) {
        this.files = files;
        this.where = where;
    }

    private static String told(Path path) {
        return ((RemotePath) path).told();
    }

    RemoteChannel opened(String path, long size, boolean writing) {
        RemoteChannel out = new RemoteChannel(this, path, size, writing);
        open.add(out);
        return out;
    }

    void closed(RemoteChannel channel) {
        open.remove(channel);
    }

    /** What is open stays so under its new name, as on a drive. */
    void move(String from, String to, boolean replacing) throws IOException {
        List<RemoteChannel> under = open.stream().filter(each -> each.under(from)).toList();
        for (RemoteChannel each : under) {
            each.settle();
        }
        files.move(from, to, replacing);
        under.forEach(each -> each.follow(from, to));
    }

    @Override
    public CheckOutcome run(Path bag, Passphrase passphrase, ProofLevel level, Watch watch) throws IOException {
        return files.prove(told(bag), passphrase, level, watch);
    }

    @Override
    public PartsRead readParts(Path bag, Passphrase passphrase, ImageJson.Content content, Watch watch) throws IOException {
        Path json = bag.resolve(READING);
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(json))) {
            ImageJsonWriter.write(out, content.description(), content.index());
        }
        PartsRead read = files.readParts(told(bag), passphrase, told(json), watch);
        Files.delete(json);
        return read;
    }

    /** The folder itself. */
    public Path root() {
        return new RemotePath(this, Path.of("/"));
    }

    /** What carries its calls. */
    public RemoteFiles files() {
        return files;
    }

    String id() {
        return id;
    }

    String where() {
        return where;
    }

    @Override
    public FileSystemProvider provider() {
        return RemoteProvider.ONLY;
    }

    @Override
    public void close() {
        // its files are closed one by one
    }

    @Override
    public boolean isOpen() {
        return true;
    }

    @Override
    public boolean isReadOnly() {
        return false;
    }

    @Override
    public String getSeparator() {
        return "/";
    }

    @Override
    public Iterable<Path> getRootDirectories() {
        return List.of(root());
    }

    @Override
    public Iterable<FileStore> getFileStores() {
        return List.of(new RemoteStore(this));
    }

    @Override
    public Set<String> supportedFileAttributeViews() {
        return Set.of("basic");
    }

    @Override
    public Path getPath(String first, String... more) {
        return new RemotePath(this, Path.of(first, more));
    }

    @Override
    public PathMatcher getPathMatcher(String pattern) {
        PathMatcher plain = FileSystems.getDefault().getPathMatcher(pattern);
        return path -> plain.matches(Path.of(path.toString()));
    }

    @Override
    public UserPrincipalLookupService getUserPrincipalLookupService() {
        throw new UnsupportedOperationException("accounts of another machine are not known");
    }

    @Override
    public WatchService newWatchService() {
        throw new UnsupportedOperationException("files of another machine are not watched");
    }
}
