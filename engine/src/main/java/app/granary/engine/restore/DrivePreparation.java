package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.TableSectors;
import app.granary.core.disk.TableWriter;
import app.granary.core.fault.Fault;
import app.granary.core.target.Preparation;
import app.granary.engine.codec.Chunks;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.BlockTarget;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.UUID;
import java.util.concurrent.TimeUnit;

/**
 * Prepares a drive: a new table, then each file system, made by the system's own tool in a scratch file that is mostly a hole, and copied to its place. So the same is
 * done for a device and for a raw file, and no system has to see the new partitions first.
 */
public final class DrivePreparation {
    private static final int PATIENCE_MINUTES = 10;
    private static final long BOTH_ENDS = 1L << 20;

    private DrivePreparation() {
    }

    /** @return the table that was written */
    public static PartitionTable run(Preparation how, long bytes, int sectorBytes, RestoreTarget to, Path scratch, Random ids, Watch watch) throws IOException {
        List<String> problems = how.problems(bytes, sectorBytes);
        if (!problems.isEmpty()) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, how.name(), problems.get(0) + " Nothing was written.").asException();
        }
        PartitionTable table = how.table(bytes, sectorBytes, id(ids), id(ids), id(ids), Integer.toUnsignedLong(ids.nextInt()));
        Path folder = Files.createTempDirectory(scratch, "prepare-");
        try (BlockTarget target = to.open()) {
            // what was there before must not be taken for what is there now
            clear(target, 0, BOTH_ENDS);
            clear(target, bytes - BOTH_ENDS, bytes);
            for (TableSectors sectors : TableWriter.write(table, bytes, sectorBytes, new byte[0])) {
                target.write(sectors.offsetBytes(), ByteBuffer.wrap(sectors.content()));
            }
            for (Partition each : table.partitions()) {
                boolean rescue = how.rescueBytes() > 0 && each.number() == 1;
                Path part = make(folder, each, rescue ? "vfat" : how.fileSystem().word(), rescue ? "RESCUE" : how.name(), sectorBytes);
                place(part, each, target, watch);
                Files.delete(part);
            }
            target.finish();
        } finally {
            app.granary.engine.source.Folders.delete(folder);
        }
        return table;
    }

    private static String id(Random ids) {
        byte[] random = new byte[16];
        ids.nextBytes(random);
        return UUID.nameUUIDFromBytes(random).toString().toUpperCase(java.util.Locale.ROOT);
    }

    private static void clear(BlockTarget target, long from, long to) throws IOException {
        target.write(from, ByteBuffer.allocate((int) (to - from)));
    }

    private static Path make(Path folder, Partition partition, String kind, String label, int sectorBytes) throws IOException {
        Path part = folder.resolve("part" + partition.number());
        try (RandomAccessFile file = new RandomAccessFile(part.toFile(), "rw")) {
            file.setLength(partition.sizeBytes());
        }
        String start = "" + partition.startBytes() / sectorBytes;
        String path = part.toString();
        List<String> command = switch (kind) {
            case "vfat" -> List.of("mkfs.vfat", "-F", "32", "-S", "" + sectorBytes, "-h", start, "-n", label, path);
            case "exfat" -> List.of("mkfs.exfat", "-L", label, path);
            case "ntfs" -> List.of("mkntfs", "-Q", "-F", "-s", "" + sectorBytes, "-p", start, "-H", "255", "-S", "63", "-L", label, path);
            default -> List.of("mkfs.ext4", "-q", "-F", "-L", label, path);
        };
        run(command);
        return part;
    }

    private static void run(List<String> command) throws IOException {
        List<String> found = new ArrayList<>(command);
        for (String folder : List.of("/usr/sbin/", "/sbin/", "/usr/bin/", "/bin/")) {
            if (Files.isExecutable(Path.of(folder + command.get(0)))) {
                found.set(0, folder + command.get(0));
                break;
            }
        }
        try {
            Process process = new ProcessBuilder(found).redirectErrorStream(true).start();
            String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
            if (!process.waitFor(PATIENCE_MINUTES, TimeUnit.MINUTES) || process.exitValue() != 0) {
                process.destroyForcibly();
                throw Fault.of(Fault.Kind.DEVICE_FAILED, command.get(0), command.get(0) + " could not make the file system: " + said.strip() + " The drive has a new table and no file system yet; prepare it again.").asException();
            }
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new java.nio.channels.ClosedByInterruptException();
        }
    }

    private static void place(Path part, Partition partition, BlockTarget target, Watch watch) throws IOException {
        byte[] content = new byte[Chunks.BYTES];
        try (BlockSource source = RawSource.open(part)) {
            for (long chunk = 0; chunk < Chunks.count(source.sizeBytes()); chunk++) {
                int length = Chunks.length(chunk, source.sizeBytes());
                source.read(chunk * Chunks.BYTES, ByteBuffer.wrap(content, 0, length));
                boolean end = chunk == 0 || chunk == Chunks.count(source.sizeBytes()) - 1;
                if (!Chunks.isZero(content, length) || end && !target.startsAsZeros()) {
                    target.write(partition.startBytes() + chunk * Chunks.BYTES, ByteBuffer.wrap(content, 0, length));
                }
                if (chunk % 256 == 0) {
                    watch.advanced(new Progress(Progress.Stage.RESTORING, chunk * Chunks.BYTES, source.sizeBytes(), 0));
                }
            }
        }
    }
}
