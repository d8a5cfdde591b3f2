package app.granary.engine.remote;

import java.io.IOException;
import java.net.URI;
import java.nio.channels.FileChannel;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.AccessMode;
import java.nio.file.CopyOption;
import java.nio.file.DirectoryStream;
import java.nio.file.FileStore;
import java.nio.file.FileSystem;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.NotDirectoryException;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.FileAttributeView;
import java.nio.file.attribute.FileTime;
import java.nio.file.spi.FileSystemProvider;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Hands what Java asks of files over to another machine. */
final class RemoteProvider extends FileSystemProvider {
    static final String SCHEME = "granary-remote";
    static final RemoteProvider ONLY = new RemoteProvider();

    private static RemoteFileSystem system(Path path) {
        return ((RemotePath) path).getFileSystem();
    }

    private static RemoteFiles files(Path path) {
        return system(path).files();
    }

    private static String told(Path path) {
        return ((RemotePath) path).told();
    }

    @Override
    public String getScheme() {
        return SCHEME;
    }

    @Override
    public FileSystem newFileSystem(URI uri, Map<String, ?> env) {
        throw new UnsupportedOperationException(SCHEME);
    }

    @Override
    public FileSystem getFileSystem(URI uri) {
        throw new UnsupportedOperationException(SCHEME);
    }

    @Override
    public Path getPath(URI uri) {
        throw new UnsupportedOperationException(SCHEME);
    }

    @Override
    public SeekableByteChannel newByteChannel(Path path, Set<? extends OpenOption> options, FileAttribute<?>... attrs) throws IOException {
        return newFileChannel(path, options, attrs);
    }

    @Override
    public FileChannel newFileChannel(Path path, Set<? extends OpenOption> options, FileAttribute<?>... attrs) throws IOException {
        boolean writing = options.contains(StandardOpenOption.WRITE) || options.contains(StandardOpenOption.APPEND);
        if (writing) {
            files(path).open(told(path), how(options));
        }
        RemoteFiles.Entry there = files(path).entry(told(path)).orElseThrow(() -> new NoSuchFileException(path.toString()));
        RemoteChannel out = system(path).opened(told(path), there.folder() ? 0 : there.bytes(), writing);
        return options.contains(StandardOpenOption.APPEND) ? out.position(there.bytes()) : out;
    }

    private static RemoteFiles.Open how(Set<? extends OpenOption> options) {
        if (options.contains(StandardOpenOption.CREATE_NEW)) {
            return RemoteFiles.Open.NEW;
        }
        boolean emptied = options.contains(StandardOpenOption.TRUNCATE_EXISTING);
        return options.contains(StandardOpenOption.CREATE) ? emptied ? RemoteFiles.Open.EMPTIED : RemoteFiles.Open.MADE
            : RemoteFiles.Open.THERE;
    }

    @Override
    public DirectoryStream<Path> newDirectoryStream(Path folder, DirectoryStream.Filter<? super Path> filter) throws IOException {
        RemoteFiles.Entry there = files(folder).entry(told(folder)).orElseThrow(() -> new NoSuchFileException(folder.toString()));
        if (!there.folder()) {
            throw new NotDirectoryException(folder.toString());
        }
        List<Path> out = new ArrayList<>();
        for (String name : files(folder).names(told(folder))) {
            Path path = folder.resolve(name);
            if (filter.accept(path)) {
                out.add(path);
            }
        }
        return new DirectoryStream<>() {
            @Override
            public Iterator<Path> iterator() {
                return out.iterator();
            }

            @Override
            public void close() {
                // nothing is open
            }
        };
    }

    @Override
    public void createDirectory(Path folder, FileAttribute<?>... attrs) throws IOException {
        files(folder).makeFolder(told(folder));
    }

    @Override
    public void delete(Path path) throws IOException {
        files(path).delete(told(path));
    }

    @Override
    public void copy(Path from, Path to, CopyOption... options) {
        throw new UnsupportedOperationException("copies on another machine are made there");
    }

    @Override
    public void move(Path from, Path to, CopyOption... options) throws IOException {
        if (from.getFileSystem() != to.getFileSystem()) {
            throw new UnsupportedOperationException("nothing is renamed from one machine to another");
        }
        system(from).move(told(from), told(to),
            Arrays.asList(options).contains(StandardCopyOption.REPLACE_EXISTING));
    }

    @Override
    public boolean isSameFile(Path one, Path other) {
        return one.toAbsolutePath().normalize().equals(other.toAbsolutePath().normalize());
    }

    @Override
    public boolean isHidden(Path path) {
        return path.getFileName() != null && path.getFileName().toString().startsWith(".");
    }

    @Override
    public FileStore getFileStore(Path path) {
        return new RemoteStore(system(path));
    }

    @Override
    public void checkAccess(Path path, AccessMode... modes) throws IOException {
        if (files(path).entry(told(path)).isEmpty()) {
            throw new NoSuchFileException(path.toString());
        }
    }

    @Override
    public <V extends FileAttributeView> V getFileAttributeView(Path path, Class<V> type, LinkOption... options) {
        return null; // only read, all at once
    }

    @Override
    public <A extends BasicFileAttributes> A readAttributes(Path path, Class<A> type, LinkOption... options) throws IOException {
        RemoteFiles.Entry there = files(path).entry(told(path)).orElseThrow(() -> new NoSuchFileException(path.toString()));
        if (!type.isAssignableFrom(Attributes.class)) {
            throw new UnsupportedOperationException(type.getName());
        }
        return type.cast(new Attributes(there));
    }

    @Override
    public Map<String, Object> readAttributes(Path path, String attributes, LinkOption... options) throws IOException {
        BasicFileAttributes all = readAttributes(path, BasicFileAttributes.class);
        return Map.of("size", all.size(), "lastModifiedTime", all.lastModifiedTime(), "isDirectory", all.isDirectory(), "isRegularFile",
            all.isRegularFile(), "isSymbolicLink", false, "isOther", false);
    }

    @Override
    public void setAttribute(Path path, String attribute, Object value, LinkOption... options) {
        throw new UnsupportedOperationException(attribute);
    }

    private record Attributes(RemoteFiles.Entry entry) implements BasicFileAttributes {
        @Override
        public FileTime lastModifiedTime() {
            return FileTime.fromMillis(entry.modifiedMillis());
        }

        @Override
        public FileTime lastAccessTime() {
            return lastModifiedTime();
        }

        @Override
        public FileTime creationTime() {
            return lastModifiedTime();
        }

        @Override
        public boolean isRegularFile() {
            return !entry.folder();
        }

        @Override
        public boolean isDirectory() {
            return entry.folder();
        }

        @Override
        public boolean isSymbolicLink() {
            return false;
        }

        @Override
        public boolean isOther() {
            return false;
        }

        @Override
        public long size() {
            return entry.bytes();
        }

        @Override
        public Object fileKey() {
            return null;
        }
    }
}
