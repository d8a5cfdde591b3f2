package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.TableSectors;
import app.granary.core.disk.TableWriter;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.FileSystem;
import app.granary.core.filesystem.FileSystems;
import app.granary.core.target.Preparation;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.MadeDrive;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.UUID;

/**
 * Prepares a drive: each file system is made by the system's own tool in a scratch file that is mostly a hole; only when all are made is
 * the drive touched, a new table first, then each file system in its place. So the same is done for a device and for a raw file, and no
 * system has to see the new partitions first.
 */
public final class DrivePreparation {
    private static final int BOTH_ENDS = 1 << 20;

    private final Preparation how;
    private final PartitionTable table;
    private final long bytes;
    private final int sectorBytes;
    private final Watch watch;

    private DrivePreparation(Preparation how, PartitionTable table, long bytes, int sectorBytes, Watch watch) {
        this.how = how;
        this.table = table;
        this.bytes = bytes;
        this.sectorBytes = sectorBytes;
        this.watch = watch;
    }

    /**
     * @return the table that was written
     * @throws app.granary.core.fault.FaultException when it cannot be done or was stopped; the sentence says what is on the drive then
     */
    public static PartitionTable run(Preparation how, long bytes, int sectorBytes, RestoreTarget to, Path scratch, Random ids, Watch watch)
        throws IOException {
        List<String> problems = how.problems(bytes, sectorBytes);
        if (!problems.isEmpty()) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, how.name(), problems.get(0) + " Nothing was written.").asException();
        }
        PartitionTable table = how.table(bytes, sectorBytes, id(ids), id(ids), id(ids), Integer.toUnsignedLong(ids.nextInt()));
        Path folder = Files.createTempDirectory(scratch, "prepare-");
        try {
            DrivePreparation work = new DrivePreparation(how, table, bytes, sectorBytes, watch);
            work.write(work.make(folder), to);
        } finally {
            app.granary.engine.source.Folders.delete(folder);
        }
        return table;
    }

    /** The file systems, in the order of their partitions. */
    private List<Path> make(Path folder) throws IOException {
        List<Path> out = new ArrayList<>();
        for (Partition each : table.partitions()) {
            if (watch.stopRequested()) {
                throw Fault.of(Fault.Kind.STOPPED, how.name(), "Stopped as asked. Nothing was written.").asException();
            }
            boolean rescue = how.rescueBytes() > 0 && each.number() == 1;
            out.add(make(folder, each, rescue ? "vfat" : how.fileSystem().word(), rescue ? "RESCUE" : how.name(), sectorBytes));
        }
        return out;
    }

    /**
     * What was there before must not be taken for what is there now, so both ends of the drive are written, and read back like the rest.
     */
    private void write(List<Path> parts, RestoreTarget to) throws IOException {
        try (MadeDrive made = new MadeDrive(how.name(), bytes, sectorBytes)) {
            made.lay(0, new byte[BOTH_ENDS]);
            made.lay(bytes - BOTH_ENDS, new byte[BOTH_ENDS]);
            for (TableSectors sectors : TableWriter.write(table, bytes, sectorBytes, new byte[0])) {
                made.lay(sectors.offsetBytes(), sectors.content());
            }
            for (int i = 0; i < parts.size(); i++) {
                made.lay(table.partitions().get(i).startBytes(), RawSource.open(parts.get(i)), used(parts.get(i)));
            }
            Extents used = made.used();
            RestoreOutcome outcome = new TargetWork(new DiskChunks(made, used), DiskCopy.plain(made, used, bytes),
                TargetWork.How.of(false, true), stoppable()).onto(to);
            if (!outcome.differences().isEmpty()) {
                throw Fault.of(Fault.Kind.DAMAGED, how.name(), outcome.differences().get(0).message()).asException();
            }
        }
    }

    /** The same watch, that says what a stop leaves here. */
    private Watch stoppable() {
        return watch.asking(what -> {
            if (watch.stopRequested()) {
                throw Fault.of(Fault.Kind.STOPPED, how.name(),
                    "Stopped as asked. The drive has a new table and an unfinished file system: what it held before is gone. Prepare "
                        + "it again.")
                    .asException();
            }
            watch.requireGoingOn(what);
        });
    }

    /** What the file system counts as its own, zeros included: a drive that was used before has old bytes where they belong. */
    private static Extents used(Path part) throws IOException {
        try (BlockSource source = RawSource.open(part)) {
            return FileSystems.probe(source, 0, source.sizeBytes()) instanceof FileSystem.Mapped mapped ? mapped.toRead()
                : Extents.range(0, source.sizeBytes());
        }
    }

    private static String id(Random ids) {
        byte[] random = new byte[16];
        ids.nextBytes(random);
        return UUID.nameUUIDFromBytes(random).toString().toUpperCase(java.util.Locale.ROOT);
    }

    private static Path make(Path folder, Partition partition, String kind, String label, int sectorBytes) throws IOException {
        Path part = folder.resolve("part" + partition.number());
        try (RandomAccessFile file = new RandomAccessFile(part.toFile(), "rw")) {
            file.setLength(partition.sizeBytes());
        }
        NewFileSystem.make(kind, label, part, partition.startBytes() / sectorBytes, sectorBytes, "Nothing was written.");
        return part;
    }
}
