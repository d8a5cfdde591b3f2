package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.disk.Window;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.FileSystem;
import app.granary.core.filesystem.FileSystems;
import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.measure.Sizes;
import app.granary.engine.progress.Progress;
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
import java.util.Map;
import java.util.Optional;

/**
 * Makes file systems smaller before they are written, by the system's own tools, and checks them. The tools see each as a file: where this
 * system can show the disk itself that way, only what they write is laid into a scratch file; otherwise all that is in use is. Only then
 * the target is touched.
 */
final class Shrinking implements Closeable {
    private final ChunkSource source;
    private final Path folder;
    private final ShrunkDisk disk;
    private final Extents used;
    /** Where the disk is not what it was; empty where partitions lie in scratch files as a whole. */
    private final Optional<Extents> written;

    private Shrinking(ChunkSource source, BlockSource disk, Extents used, Path folder, Parts parts) {
        this.source = source;
        this.folder = folder;
        this.disk = new ShrunkDisk(disk, parts.all);
        this.used = this.disk.used(used);
        this.written = parts.written;
    }

    /** @param written of the disk; empty where partitions lie in scratch files as a whole */
    private record Parts(List<ShrunkDisk.Part> all, Optional<Extents> written) {
    }

    /**
     * @param source  the disk, as it is gone through once
     * @param disk    the same, as it is read here and there
     * @param scratch a folder with room; what is laid there is gone when this is closed
     * @param shows   how the disk may be shown to the tools
     * @throws app.granary.core.fault.FaultException when there is no room, a tool refuses, or the image is damaged; nothing was written
     * onto
     *                                               the target
     */
    static Shrinking of(ChunkSource source, BlockSource disk, DiskSurvey survey, RestoreLayout layout, Optional<Path> scratch,
        Overlay.Shows shows, Watch watch) throws IOException {
        Path root = scratch.orElseThrow(() -> Fault.of(Fault.Kind.BAD_CHOICE, survey.name(),
            "Name a folder for a scratch file, in which file systems are made smaller. Nothing was written.").asException());
        long room = Files.getFileStore(root).getUsableSpace();
        if (room < layout.scratchBytes()) {
            throw Fault.of(Fault.Kind.NO_ROOM, root.toString(), "Making the file systems smaller takes a scratch file of "
                + Sizes.decimal(layout.scratchBytes()) + ", and " + root + " has " + Sizes.decimal(room)
                + " free. Name a folder with more room. Nothing was written.").asException();
        }
        Path folder = Files.createTempDirectory(root, "granary-scratch-");
        try {
            List<Placed> shrunk = layout.placed().stream().filter(Placed::shrunk)
                .sorted(Comparator.comparingLong(each -> each.from().startBytes())).toList();
            Optional<Parts> overlaid = overlaid(disk, shrunk, shows, folder, watch);
            Parts parts = overlaid.isPresent() ? overlaid.get() : laid(source, disk, shrunk, folder, watch);
            return new Shrinking(source, disk, survey.toRead(), folder, parts);
        } catch (FaultException told) {
            Folders.delete(folder);
            throw untouched(told);
        } catch (IOException | RuntimeException failed) {
            Folders.delete(folder);
            throw failed;
        }
    }

    private static FaultException untouched(FaultException told) {
        return Fault.of(told.fault().kind(), told.fault().device(), told.fault().sentence() + " Nothing was written onto the target.")
            .asException();
    }

    /** @return empty where this system cannot show them */
    private static Optional<Parts> overlaid(BlockSource disk, List<Placed> shrunk, Overlay.Shows shows, Path folder, Watch watch)
        throws IOException {
        List<ShrunkDisk.Part> parts = new ArrayList<>();
        Extents written = Extents.NONE;
        long done = 0;
        try {
            for (Placed each : shrunk) {
                watch.advanced(new Progress(Progress.Stage.SHRINKING, done, shrunk.stream().mapToLong(Placed::scratchBytes).sum(), 0));
                long start = each.from().startBytes();
                long to = each.to().sizeBytes();
                Optional<Overlay> shown = shows.over(new Window(disk, start, each.from().sizeBytes()), folder, name(each));
                if (shown.isEmpty()) {
                    closed(parts);
                    return Optional.empty();
                }
                Overlaid changed = changed(shown.get(), each, watch);
                parts.add(part(each, new Window(changed, 0, to), changed));
                written = written.union(changed.written().within(0, to).shift(start));
                done += each.scratchBytes();
            }
            return Optional.of(new Parts(parts, Optional.of(written)));
        } catch (IOException | RuntimeException failed) {
            closed(parts);
            throw failed;
        }
    }

    private static Overlaid changed(Overlay shown, Placed placed, Watch watch) throws IOException {
        try (shown) {
            try {
                new FileSystemLength(shown.file(), placed.fileSystem(), placed.from().label(), Overlay.ENVIRONMENT, watch)
                    .shrink(placed.to().sizeBytes());
            } finally {
                shown.requireRead(); // what a tool says of a part that is damaged is not the reason
            }
            return shown.changed();
        }
    }

    private static Parts laid(ChunkSource source, BlockSource disk, List<Placed> shrunk, Path folder, Watch watch) throws IOException {
        try (Laying laying = new Laying(source)) {
            for (Placed each : shrunk) {
                laying.add(each.from().startBytes(), each.from().sizeBytes(), folder.resolve(name(each)));
            }
            laying.run(watch);
        }
        List<ShrunkDisk.Part> parts = new ArrayList<>();
        try {
            for (Placed each : shrunk) {
                Path file = folder.resolve(name(each));
                new FileSystemLength(file, each.fileSystem(), each.from().label(), Map.of(), watch).shrink(each.to().sizeBytes());
                try (RandomAccessFile raw = new RandomAccessFile(file.toFile(), "rw")) {
                    raw.setLength(each.to().sizeBytes());
                }
                RawSource out = RawSource.open(file).withSectorBytes(disk.sectorBytes());
                parts.add(part(each, out, out));
            }
            return new Parts(parts, Optional.empty());
        } catch (IOException | RuntimeException failed) {
            closed(parts);
            throw failed;
        }
    }

    private static String name(Placed placed) {
        return "partition-" + placed.from().number();
    }

    private static void closed(List<ShrunkDisk.Part> parts) throws IOException {
        for (ShrunkDisk.Part each : parts) {
            each.close();
        }
    }

    private static ShrunkDisk.Part part(Placed placed, BlockSource out, Closeable owned) throws IOException {
        long to = placed.to().sizeBytes();
        return new ShrunkDisk.Part(placed.from().startBytes(), placed.from().sizeBytes(), out, FileSystems.probe(out, 0,
            to) instanceof FileSystem.Mapped mapped ? mapped.toRead() : Extents.range(0, to), owned);
    }

    /** @param sound how the image is proven before the first byte is overwritten */
    ChunkSource chunks(DiskChunks.Sound sound) {
        return written.isPresent() ? new OverlaidChunks(source, disk, used, written.get(), sound) : new DiskChunks(disk, used, sound);
    }

    @Override
    public void close() throws IOException {
        disk.close();
        Folders.delete(folder);
    }
}
