package app.granary.engine.remote;

import java.io.IOException;
import java.net.URI;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.WatchEvent;
import java.nio.file.WatchKey;
import java.nio.file.WatchService;

/** A path on another machine, with the rules of the system's own paths. */
final class RemotePath implements Path {
    private final RemoteFileSystem system;
    private final Path name;

    RemotePath(RemoteFileSystem system, Path name) {
        this.system = system;
        this.name = name;
    }

    /** As the other machine takes it: relative to its folder, with slashes. */
    String told() {
        return toAbsolutePath().normalize().toString().substring(1);
    }

    private Path of(Path plain) {
        return plain == null ? null : new RemotePath(system, plain);
    }

    private static Path plain(Path other) {
        return other instanceof RemotePath mine ? mine.name : other;
    }

    @Override
    public RemoteFileSystem getFileSystem() {
        return system;
    }

    @Override
    public boolean isAbsolute() {
        return name.isAbsolute();
    }

    @Override
    public Path getRoot() {
        return of(name.getRoot());
    }

    @Override
    public Path getFileName() {
        return of(name.getFileName());
    }

    @Override
    public Path getParent() {
        return of(name.getParent());
    }

    @Override
    public int getNameCount() {
        return name.getNameCount();
    }

    @Override
    public Path getName(int index) {
        return of(name.getName(index));
    }

    @Override
    public Path subpath(int from, int to) {
        return of(name.subpath(from, to));
    }

    @Override
    public boolean startsWith(Path other) {
        return name.startsWith(plain(other));
    }

    @Override
    public boolean endsWith(Path other) {
        return name.endsWith(plain(other));
    }

    @Override
    public Path normalize() {
        return of(name.normalize());
    }

    @Override
    public Path resolve(Path other) {
        return of(name.resolve(plain(other)));
    }

    @Override
    public Path relativize(Path other) {
        return of(name.relativize(plain(other)));
    }

    @Override
    public URI toUri() {
        return URI.create(RemoteProvider.SCHEME + ":" + system.id() + toAbsolutePath());
    }

    @Override
    public Path toAbsolutePath() {
        return name.isAbsolute() ? this : of(Path.of("/").resolve(name));
    }

    @Override
    public Path toRealPath(LinkOption... options) throws IOException {
        return toAbsolutePath().normalize(); // no path leads over a link there
    }

    @Override
    public WatchKey register(WatchService watcher, WatchEvent.Kind<?>[] events, WatchEvent.Modifier... modifiers) {
        throw new UnsupportedOperationException("files of another machine are not watched");
    }

    @Override
    public int compareTo(Path other) {
        return name.compareTo(plain(other));
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof RemotePath that && that.system == system && that.name.equals(name);
    }

    @Override
    public int hashCode() {
        return name.hashCode();
    }

    @Override
    public String toString() {
        return name.toString();
    }
}
