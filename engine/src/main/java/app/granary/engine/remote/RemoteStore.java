package app.granary.engine.remote;

import java.io.IOException;
import java.nio.file.FileStore;
import java.nio.file.attribute.FileAttributeView;
import java.nio.file.attribute.FileStoreAttributeView;

/** The drive a folder of another machine lies on. */
final class RemoteStore extends FileStore {
    private final RemoteFileSystem system;

    RemoteStore(RemoteFileSystem system) {
        this.system = system;
    }

    @Override
    public String name() {
        return system.where();
    }

    @Override
    public String type() {
        return "remote";
    }

    @Override
    public boolean isReadOnly() {
        return false;
    }

    @Override
    public long getTotalSpace() throws IOException {
        return system.files().room().totalBytes();
    }

    @Override
    public long getUsableSpace() throws IOException {
        return system.files().room().usableBytes();
    }

    @Override
    public long getUnallocatedSpace() throws IOException {
        return getUsableSpace();
    }

    @Override
    public boolean supportsFileAttributeView(Class<? extends FileAttributeView> type) {
        return false;
    }

    @Override
    public boolean supportsFileAttributeView(String name) {
        return name.equals("basic");
    }

    @Override
    public <V extends FileStoreAttributeView> V getFileStoreAttributeView(Class<V> type) {
        return null;
    }

    @Override
    public Object getAttribute(String attribute) {
        throw new UnsupportedOperationException(attribute);
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof RemoteStore that && that.system == system;
    }

    @Override
    public int hashCode() {
        return system.hashCode();
    }
}
