package app.granary.engine.files;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.FileEntry;
import app.granary.core.filesystem.FileTree;
import app.granary.engine.progress.Progress;
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
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Takes one file, or a folder with all that is in it, off a disk or an image. It lies under its name only once all of it is on the device;
 * nothing that is there already is written over.
 */
public final class Fetch {
    private static final int PIECE = 1 << 20;

    private final Watch watch;
    private final long all;
    private final List<String> passedOver = new ArrayList<>();
    private final byte[] piece = new byte[PIECE];
    private long files;
    private long bytes;

    private Fetch(Watch watch, long all) {
        this.watch = watch;
        this.all = all;
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
        Fetch fetch = new Fetch(watch, bytesOf(found.tree(), found.entry()));
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
        try (InputStream in = tree.content(entry);
            FileChannel out = FileChannel.open(to, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE)) {
            for (int count = in.read(piece); count >= 0; count = in.read(piece)) {
                watch.requireGoingOn(entry.name());
                for (ByteBuffer from = ByteBuffer.wrap(piece, 0, count); from.hasRemaining();) {
                    out.write(from);
                }
                bytes += count;
                watch.advanced(new Progress(Progress.Stage.FETCHING, bytes, Math.max(bytes, all), bytes));
            }
            out.force(true);
        }
        Files.setLastModifiedTime(to, FileTime.from(entry.modifiedAt()));
        files++;
    }

    /** What leads back to a folder that was read before is passed over, whatever made it. */
    private void folder(FileTree tree, FileEntry top, Path to) throws IOException {
        FolderWalk<FileEntry> walk = new FolderWalk<>(top, top.id().number());
        for (Optional<FolderWalk.Step<FileEntry>> step = walk.next(); step.isPresent(); step = walk.next()) {
            FolderWalk.Step<FileEntry> now = step.get();
            Path into = to.resolve(String.join("/", now.names()));
            for (FileEntry each : entries(tree, now.folder())) {
                if (!each.isPlainName()) {
                    passedOver.add(into.getFileName() + "/…: a name that cannot be one here");
                } else if (!each.isFolder()) {
                    one(tree, each, into.resolve(each.name()));
                } else if (walk.leadsBack(each.id().number())) {
                    passedOver.add(each.name() + ": it leads back to a folder that was fetched already");
                } else if (made(into, each)) {
                    walk.enter(each, each.id().number(), now.below(each.name()));
                }
            }
            Folders.sync(into);
        }
    }

    private boolean made(Path into, FileEntry folder) throws IOException {
        try {
            Files.createDirectory(into.resolve(folder.name()));
            return true;
        } catch (FileSystemException cannot) { // thousands of folders in each other have a name no system takes
            passedOver.add(folder.name() + " and what is in it: " + (cannot.getReason() == null ? "there are two of that name"
                : cannot.getReason()));
            return false;
        }
    }

    private List<FileEntry> entries(FileTree tree, FileEntry folder) throws IOException {
        try {
            return tree.list(folder);
        } catch (FaultException damaged) {
            passedOver.add(damaged.fault().sentence());
            return List.of();
        }
    }

    /** What there is to fetch, as far as it can be read; a folder that cannot is told of when its turn comes. */
    private static long bytesOf(FileTree tree, FileEntry top) throws IOException {
        if (!top.isFolder()) {
            return top.bytes();
        }
        long sum = 0;
        FolderWalk<FileEntry> walk = new FolderWalk<>(top, top.id().number());
        for (Optional<FolderWalk.Step<FileEntry>> step = walk.next(); step.isPresent(); step = walk.next()) {
            try {
                for (FileEntry each : tree.list(step.get().folder())) {
                    sum += each.bytes();
                    if (each.isFolder()) {
                        walk.enter(each, each.id().number(), List.of());
                    }
                }
            } catch (FaultException damaged) {
                continue;
            }
        }
        return sum;
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
