package app.granary.engine.files;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.FileEntry;
import app.granary.core.filesystem.FileTree;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.Folders;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * Takes one file, or a folder with all that is in it, off a disk or an image. It lies under its name only once all of it is on the device;
 * nothing that is there already is written over.
 */
public final class Fetch {
    private static final int PIECE = 1 << 20;

    private final DiskFiles disk;
    private final Watch watch;
    private final List<String> passedOver = new ArrayList<>();
    private final byte[] piece = new byte[PIECE];
    private long files;
    private long bytes;

    private Fetch(DiskFiles disk, Watch watch) {
        this.disk = disk;
        this.watch = watch;
    }

    /**
     * What came.
     *
     * @param passedOver what could not, each with the reason
     */
    public record Fetched(Path at, long files, long bytes, List<String> passedOver) {
    }

    /**
     * @param out where to; into it, under its own name, when it is a folder
     * @throws FaultException when there is something by that name already, or a single file cannot be read
     */
    public static Fetched run(DiskFiles disk, FilePlace place, Path out, Watch watch) throws IOException {
        DiskFiles.Found found = disk.find(place);
        Path to = Files.isDirectory(out) && !place.names().isEmpty() ? out.resolve(plain(found.entry())) : out;
        if (Files.exists(to)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, to.toString(), "There is " + to + " already. Name another place, or move it away.")
                .asException();
        }
        Path folder = to.toAbsolutePath().getParent();
        if (!Files.isDirectory(folder)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, folder.toString(), folder + " is no folder. Name a place in one that is there.")
                .asException();
        }
        Path partial = folder.resolve("." + to.getFileName() + ".partial");
        Folders.delete(partial);
        Fetch fetch = new Fetch(disk, watch);
        try {
            if (found.entry().isFolder()) {
                fetch.folder(found.tree(), found.entry(), Files.createDirectory(partial));
            } else {
                fetch.file(found.tree(), found.entry(), partial);
            }
            Files.move(partial, to, StandardCopyOption.ATOMIC_MOVE);
            Folders.sync(folder);
        } finally {
            Folders.delete(partial);
        }
        return new Fetched(to, fetch.files, fetch.bytes, fetch.passedOver);
    }

    private static String plain(FileEntry entry) throws IOException {
        if (!entry.isPlainName()) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, entry.name(), "Its name cannot be one here. Say what it is to be called.").asException();
        }
        return entry.name();
    }

    private void file(FileTree tree, FileEntry entry, Path to) throws IOException {
        if (entry.kind() != FileEntry.Kind.FILE) {
            throw Fault.of(Fault.Kind.UNSUPPORTED, entry.name(), "\"" + entry.name() + "\" is neither a file nor a folder.").asException();
        }
        try (InputStream in = disk.open(tree, entry);
            FileChannel out = FileChannel.open(to, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE)) {
            for (int count = in.read(piece); count >= 0; count = in.read(piece)) {
                watch.requireGoingOn(entry.name());
                for (ByteBuffer from = ByteBuffer.wrap(piece, 0, count); from.hasRemaining();) {
                    out.write(from);
                }
                bytes += count;
            }
            out.force(true);
        }
        Files.setLastModifiedTime(to, FileTime.from(entry.modifiedAt()));
        files++;
    }

    /** One that is still to be read. */
    private record Open(FileEntry entry, Path to) {
    }

    /** What leads back to a folder that was read before is passed over, whatever made it. */
    private void folder(FileTree tree, FileEntry top, Path to) throws IOException {
        Set<Long> seen = new HashSet<>(Set.of(top.id().number()));
        Deque<Open> open = new ArrayDeque<>(List.of(new Open(top, to)));
        while (!open.isEmpty()) {
            Open now = open.remove();
            for (FileEntry each : entries(tree, now)) {
                if (!each.isPlainName()) {
                    passedOver.add(now.to.getFileName() + "/…: a name that cannot be one here");
                } else if (!each.isFolder()) {
                    one(tree, each, now.to.resolve(each.name()));
                } else if (seen.add(each.id().number())) {
                    below(now, each, open);
                } else {
                    passedOver.add(each.name() + ": it leads back to a folder that was fetched already");
                }
            }
            Folders.sync(now.to);
        }
    }

    private void below(Open now, FileEntry folder, Deque<Open> open) throws IOException {
        try {
            open.add(new Open(folder, Files.createDirectory(now.to.resolve(folder.name()))));
        } catch (FileSystemException cannot) { // thousands of folders in each other have a name no system takes
            passedOver.add(folder.name() + " and what is in it: " + (cannot.getReason() == null ? "there are two of that name"
                : cannot.getReason()));
        }
    }

    private List<FileEntry> entries(FileTree tree, Open folder) throws IOException {
        try {
            return tree.list(folder.entry);
        } catch (FaultException damaged) {
            passedOver.add(damaged.fault().sentence());
            return List.of();
        }
    }

    private void one(FileTree tree, FileEntry entry, Path to) throws IOException {
        try {
            file(tree, entry, to);
        } catch (FaultException unreadable) {
            if (unreadable.fault().kind() == Fault.Kind.STOPPED) {
                throw unreadable;
            }
            Files.deleteIfExists(to);
            passedOver.add(unreadable.fault().sentence());
        } catch (java.nio.file.FileAlreadyExistsException twice) {
            passedOver.add(entry.name() + ": there are two of that name");
        }
    }
}
