package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.FileSystem;
import app.granary.core.filesystem.FileSystems;
import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.measure.Sizes;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.Folders;
import app.granary.engine.source.RawSource;
import java.io.Closeable;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * Makes file systems smaller before they are written: each is laid into a scratch file that is mostly a hole, shrunk there by the system's
 * own tools, and checked. Only then the target is touched.
 */
final class Shrinking implements Closeable {
    private final Path folder;
    private final ShrunkDisk disk;
    private final Extents used;

    private Shrinking(Path folder, ShrunkDisk disk, Extents used) {
        this.folder = folder;
        this.disk = disk;
        this.used = used;
    }

    /**
     * @param source  the disk, as it is gone through once
     * @param disk    the same, as it is read here and there
     * @param scratch a folder with room; what is laid there is gone when this is closed
     * @throws app.granary.core.fault.FaultException when there is no room, a tool refuses, or the image is damaged; nothing was written
     * onto
     *                                               the target
     */
    static Shrinking of(ChunkSource source, BlockSource disk, DiskSurvey survey, RestoreLayout layout, Optional<Path> scratch, Watch watch)
        throws IOException {
        Path root = scratch.orElseThrow(() -> Fault.of(Fault.Kind.BAD_CHOICE, survey.name(),
            "Name a folder for a scratch file, in which file systems are made smaller. Nothing was written.").asException());
        long room = Files.getFileStore(root).getUsableSpace();
        if (room < layout.scratchBytes()) {
            throw Fault.of(Fault.Kind.NO_ROOM, root.toString(), "Making the file systems smaller takes a scratch file of "
                + Sizes.decimal(layout.scratchBytes()) + ", and " + root + " has " + Sizes.decimal(room)
                + " free. Name a folder with more room. Nothing was written.").asException();
        }
        Path folder = Files.createTempDirectory(root, "granary-scratch-");
        List<ShrunkDisk.Part> parts = new ArrayList<>();
        try {
            List<Placed> shrunk = layout.placed().stream().filter(Placed::shrunk)
                .sorted(Comparator.comparingLong(each -> each.from().startBytes())).toList();
            laid(source, shrunk, folder, watch);
            for (Placed each : shrunk) {
                parts.add(shrunk(disk, each, file(folder, each), watch));
            }
            ShrunkDisk out = new ShrunkDisk(disk, parts);
            return new Shrinking(folder, out, out.used(survey.toRead()));
        } catch (IOException | RuntimeException failed) {
            for (ShrunkDisk.Part each : parts) {
                each.file().close();
            }
            Folders.delete(folder);
            throw failed;
        }
    }

    private static Path file(Path folder, Placed placed) {
        return folder.resolve("partition-" + placed.from().number());
    }

    private static void laid(ChunkSource source, List<Placed> shrunk, Path folder, Watch watch) throws IOException {
        try (Laying laying = new Laying(source)) {
            for (Placed each : shrunk) {
                laying.add(each.from().startBytes(), each.from().sizeBytes(), file(folder, each));
            }
            laying.run(watch);
        } catch (FaultException told) {
            throw untouched(told);
        }
    }

    private static FaultException untouched(FaultException told) {
        return Fault.of(told.fault().kind(), told.fault().device(), told.fault().sentence() + " Nothing was written onto the target.")
            .asException();
    }

    private static ShrunkDisk.Part shrunk(BlockSource disk, Placed placed, Path file, Watch watch) throws IOException {
        long start = placed.from().startBytes();
        long to = placed.to().sizeBytes();
        try {
            new FileSystemLength(file, placed.fileSystem(), placed.from().label(), watch).shrink(to);
        } catch (FaultException told) {
            throw untouched(told);
        }
        try (RandomAccessFile raw = new RandomAccessFile(file.toFile(), "rw")) {
            raw.setLength(to);
        }
        RawSource out = RawSource.open(file).withSectorBytes(disk.sectorBytes());
        return new ShrunkDisk.Part(start, placed.from().sizeBytes(), out, FileSystems.probe(out, 0, to) instanceof FileSystem.Mapped mapped
            ? mapped.toRead() : Extents.range(0, to));
    }

    /** @param sound how the image is proven before the first byte is overwritten */
    ChunkSource chunks(DiskChunks.Sound sound) {
        return new DiskChunks(disk, used, sound);
    }

    @Override
    public void close() throws IOException {
        disk.close();
        Folders.delete(folder);
    }
}
