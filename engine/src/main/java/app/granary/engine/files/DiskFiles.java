package app.granary.engine.files;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionTables;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.FileEntry;
import app.granary.core.filesystem.FileNames;
import app.granary.core.filesystem.FileSystems;
import app.granary.core.filesystem.FileTree;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/**
 * A disk, or an image of one, as its partitions, folders and files. Nothing is written to it. What its table and the heads of its file
 * systems say is read once. Safe for several threads if its source is.
 */
public final class DiskFiles {
    private final BlockSource source;
    private final Map<Integer, FileTree> trees = new ConcurrentHashMap<>();
    private volatile Optional<List<Volume>> volumes = Optional.empty();

    /** @param source stays its owner's to close */
    public DiskFiles(BlockSource source) {
        this.source = source;
    }

    /**
     * A partition that may hold files.
     *
     * @param number     0 for the whole disk, where it has no table
     * @param fileSystem its kind; "unknown" where none is recognised
     */
    public record Volume(int number, String name, long startBytes, long sizeBytes, String fileSystem) {
    }

    /** In the order of the table. */
    public List<Volume> volumes() throws IOException {
        if (volumes.isEmpty()) {
            volumes = Optional.of(read());
        }
        return volumes.orElseThrow();
    }

    private List<Volume> read() throws IOException {
        PartitionTable table = PartitionTables.read(source);
        if (table instanceof PartitionTable.Absent) {
            return List.of(volume(0, "", 0, source.sizeBytes()));
        }
        List<Volume> out = new ArrayList<>();
        for (Partition each : table.partitions()) {
            if (!each.container()) {
                out.add(volume(each.number(), each.name(), each.startBytes(), each.sizeBytes()));
            }
        }
        return out;
    }

    private Volume volume(int number, String name, long start, long size) throws IOException {
        return new Volume(number, name, start, size, FileSystems.kind(source, start, size));
    }

    private FileTree tree(int partition) throws IOException {
        FileTree known = trees.get(partition);
        if (known != null) {
            return known;
        }
        Volume volume = volumes().stream().filter(each -> each.number() == partition).findFirst()
            .orElseThrow(() -> Fault.of(Fault.Kind.BAD_CHOICE, "" + partition, source.name() + " has no partition " + partition
                + ". Leave the place out to see which it has.").asException());
        FileTree tree = FileTree.of(source, volume.startBytes(), volume.sizeBytes());
        trees.put(partition, tree);
        return tree;
    }

    /** What was found, and the tree it is in. */
    public record Found(FileTree tree, FileEntry entry) {
    }

    /** @throws app.granary.core.fault.FaultException when there is nothing by that name, or a folder on the way cannot be read */
    public Found find(FilePlace place) throws IOException {
        FileTree tree = tree(place.partition());
        FileEntry at = tree.root();
        for (String name : place.names()) {
            if (!at.isFolder()) {
                throw missing(place, "\"" + at.name() + "\" is no folder");
            }
            at = tree.find(at, name).orElseThrow(() -> missing(place, "there is no \"" + name + "\""));
        }
        return new Found(tree, at);
    }

    private static app.granary.core.fault.FaultException missing(FilePlace place, String why) {
        return Fault.of(Fault.Kind.BAD_CHOICE, place.toString(), place + " is not there: " + why + ".").asException();
    }

    /** What lies in a folder; of a file, itself. */
    public List<FileEntry> list(FilePlace place) throws IOException {
        Found found = find(place);
        return found.entry.isFolder() ? found.tree.list(found.entry) : List.of(found.entry);
    }

    /** The same, where what a name stands for is read only when it is asked for. */
    public FileNames names(FilePlace place) throws IOException {
        Found found = find(place);
        return found.entry.isFolder() ? found.tree.names(found.entry) : FileNames.of(List.of(found.entry));
    }

    /** @throws app.granary.core.fault.FaultException when it is no file, or cannot be read */
    public InputStream content(FilePlace place) throws IOException {
        Found found = find(place);
        if (found.entry.kind() != FileEntry.Kind.FILE) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, place.toString(), place + " is no file. Choose one.").asException();
        }
        return found.tree.content(found.entry);
    }
}
