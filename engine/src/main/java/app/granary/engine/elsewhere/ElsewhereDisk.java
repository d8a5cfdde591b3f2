package app.granary.engine.elsewhere;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTables;
import app.granary.core.disk.SourceOver;
import app.granary.core.disk.TableSectors;
import app.granary.core.disk.TableWriter;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.measure.Sizes;
import app.granary.engine.nbd.VirtualDisk;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.Folders;
import app.granary.engine.source.MadeDrive;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.io.InputStream;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;

/**
 * An image made elsewhere as the disk it was made of. What is packed is unpacked first, into a scratch file that is mostly a hole; all else
 * is read where it lies.
 */
public final class ElsewhereDisk extends SourceOver {
    private static final int PIECE = 1 << 16;
    private static final int SECTOR = 512;
    private static final long MIB = 1L << 20;
    /** Packed; unpacking so much takes about as long as a person waits for a page (measured: gzip at 60 to 100 MB/s here). */
    private static final long MOST_UNPACKED = 1_000_000_000L;

    private final Path scratch;

    private ElsewhereDisk(BlockSource disk, Path scratch) {
        super(disk);
        this.scratch = scratch;
    }

    /**
     * @param root    of the destination
     * @param scratch an existing folder with room for what is in use on the disk; nothing is left in it once this is closed
     * @throws app.granary.core.fault.FaultException when it cannot be read as a disk, with why
     */
    public static ElsewhereDisk open(Path root, ElsewhereImage image, Path scratch, Watch watch) throws IOException {
        Path folder = ElsewhereScan.within(root, image.folder());
        Path own = Files.createTempDirectory(scratch, "rehearsal-");
        try {
            BlockSource disk = switch (image.kind()) {
                case RAW -> raw(folder, image.files(), image.inside().sizeBytes(), own, watch);
                case VIRTUAL -> virtual(folder.resolve(image.files().get(0).name()));
                case SET -> set(folder, image, own, watch);
                default -> throw Fault.of(Fault.Kind.UNSUPPORTED, image.name(), image.name() + " was kept as found: nobody can tell what "
                    + "is in it. Open it with the program that made it.").asException();
            };
            return new ElsewhereDisk(disk, own);
        } catch (IOException | RuntimeException failed) {
            Folders.delete(own);
            throw failed;
        }
    }

    /**
     * To be looked into at once: one that is packed and long is not unpacked for that.
     *
     * @throws app.granary.core.fault.FaultException when it cannot be, with what to do
     */
    public static ElsewhereDisk forLooking(Path root, ElsewhereImage image, Path scratch) throws IOException {
        Path folder = ElsewhereScan.within(root, image.folder());
        long packed = 0;
        for (ElsewhereFile each : image.kind() == ElsewhereImage.Kind.VIRTUAL ? List.<ElsewhereFile>of() : image.files()) {
            if (Packing.of(JoinedFiles.firstBytes(folder, List.of(each), Packing.HEAD_BYTES)) != Packing.NONE) {
                packed += each.bytes();
            }
        }
        if (packed > MOST_UNPACKED) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, image.name(), image.name() + " is packed, " + Sizes.decimal(packed) + " of it, and would "
                + "have to be unpacked first. Unpack it on its drive and add that, or restore it onto a spare disk.").asException();
        }
        return open(root, image, scratch, Watch.NONE);
    }

    static BlockSource virtual(Path file) throws IOException {
        String format;
        try (RawSource bytes = RawSource.open(file)) {
            format = VirtualDisk.format(bytes).orElse("raw");
        }
        return VirtualDisk.open(file, format);
    }

    private static BlockSource raw(Path folder, List<ElsewhereFile> files, OptionalLong longest, Path scratch, Watch watch)
        throws IOException {
        Packing packing = Packing.of(JoinedFiles.firstBytes(folder, files, Packing.HEAD_BYTES));
        if (packing == Packing.NONE) {
            JoinedSource found = new JoinedSource(folder, files, 512);
            return new JoinedSource(folder, files, PartitionTables.sectorBytes(found));
        }
        return RawSource.open(unpacked(folder, files, packing, longest.orElse(Long.MAX_VALUE), scratch, watch));
    }

    private static Path unpacked(Path folder, List<ElsewhereFile> files, Packing packing, long longest, Path scratch, Watch watch)
        throws IOException {
        Path out = Files.createTempFile(scratch, "unpacked-", ".img");
        long at = 0;
        try (InputStream in = packing.open(new JoinedFiles(folder, files, false, watch));
            RandomAccessFile file = new RandomAccessFile(out.toFile(), "rw")) {
            byte[] piece = new byte[PIECE];
            for (int count = in.readNBytes(piece, 0, PIECE); count > 0; count = in.readNBytes(piece, 0, PIECE)) {
                watch.requireGoingOn(files.get(0).name());
                if (at + count > longest) {
                    throw Fault.of(Fault.Kind.DAMAGED, files.get(0).name(), files.get(0).name() + " holds more than "
                        + Sizes.decimal(longest) + " when it is unpacked, and should not. Check the image.").asException();
                }
                boolean zeros = Arrays.mismatch(piece, 0, count, new byte[count], 0, count) < 0;
                if (!zeros) {
                    room(out, files.get(0).name());
                    file.seek(at);
                    file.write(piece, 0, count);
                }
                at += count;
            }
            file.setLength(at);
        }
        return out;
    }

    private static void room(Path file, String name) throws IOException {
        if (Files.getFileStore(file).getUsableSpace() < 64 * MIB) {
            throw Fault.of(Fault.Kind.NO_ROOM, name, name + " is packed, and there is no room to unpack it in " + file.getParent()
                + ". Make room there, or unpack it on its drive.").asException();
        }
    }

    /** Length of the disk that a set is of: as it is told, or as its table needs. */
    static long bytes(ElsewhereImage image) {
        long tail = image.inside().scheme().equals("gpt") ? MIB : 0;
        return image.inside().sizeBytes().orElse((image.inside().endBytes() + tail + MIB - 1) / MIB * MIB);
    }

    /** @throws app.granary.core.fault.FaultException when a partition of a set does not unpack to its length */
    static void requireWhole(Path folder, ElsewhereImage image, Watch watch) throws IOException {
        ShellSet set = ShellSet.of(image);
        for (Map.Entry<Integer, PartSets.Set> each : set.parts().entrySet()) {
            List<ElsewhereFile> files = ShellSet.sized(folder, each.getValue());
            long wanted = set.partition(each.getKey()).orElseThrow().sizeBytes();
            Packing packing = Packing.of(JoinedFiles.firstBytes(folder, files, Packing.HEAD_BYTES));
            try (InputStream in = packing.open(new JoinedFiles(folder, files, false, watch))) {
                byte[] piece = new byte[PIECE];
                long length = 0;
                for (int count = in.read(piece); count >= 0 && length <= wanted; count = in.read(piece)) {
                    length += count;
                }
                requireLength(each.getValue().name(), length, wanted);
            } catch (FaultException told) {
                throw told;
            } catch (IOException | RuntimeException broken) {
                throw Fault.of(Fault.Kind.DAMAGED, each.getValue().name(), each.getValue().name() + " cannot be unpacked ("
                    + packing.word() + ": " + broken.getMessage() + ").").asException();
            }
        }
    }

    private static void requireLength(String name, long length, long wanted) throws IOException {
        if (length != wanted) {
            throw Fault.of(Fault.Kind.DAMAGED, name, name + (length > wanted ? " holds more than the " + wanted + " bytes of its partition."
                : " holds " + length + " of the " + wanted + " bytes of its partition.") + " Check the image.").asException();
        }
    }

    private static BlockSource set(Path folder, ElsewhereImage image, Path scratch, Watch watch) throws IOException {
        ShellSet set = ShellSet.of(image);
        MadeDrive out = new MadeDrive(image.name(), bytes(image), SECTOR);
        try {
            lay(out, set, folder, scratch, watch);
            return out;
        } catch (IOException | RuntimeException failed) {
            out.close(); // with what was opened before
            throw failed;
        }
    }

    private static void lay(MadeDrive out, ShellSet set, Path folder, Path scratch, Watch watch) throws IOException {
        int sector = out.sectorBytes();
        byte[] first = new byte[sector];
        for (PartSets.Set start : set.starts()) {
            if (!ShellSet.isStart(folder.resolve(start.name()))) {
                continue;
            }
            RawSource boot = RawSource.open(folder.resolve(start.name()));
            boot.read(0, ByteBuffer.wrap(first));
            long before = set.inside().partitions().stream().mapToLong(Partition::startBytes).min().orElse(0);
            out.lay(0, boot, Extents.range(0, Math.min(boot.sizeBytes(), before)));
        }
        for (TableSectors each : TableWriter.write(set.written(out.sizeBytes(), sector), out.sizeBytes(), sector, first)) {
            out.lay(each.offsetBytes(), each.content());
        }
        for (Map.Entry<Integer, PartSets.Set> each : set.parts().entrySet()) {
            Partition partition = set.partition(each.getKey()).orElseThrow();
            BlockSource part = raw(folder, ShellSet.sized(folder, each.getValue()), OptionalLong.of(partition.sizeBytes()), scratch, watch);
            out.lay(partition.startBytes(), part, Extents.range(0, part.sizeBytes()));
            requireLength(each.getValue().name(), part.sizeBytes(), partition.sizeBytes());
        }
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        source.read(offsetBytes, into);
    }

    @Override
    public void close() throws IOException {
        source.close();
        Folders.delete(scratch);
    }
}
