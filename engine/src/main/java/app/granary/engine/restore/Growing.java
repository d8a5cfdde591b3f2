package app.granary.engine.restore;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.FileSystems;
import app.granary.core.layout.Added;
import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Lets file systems grow into their partitions once all was written and compared, makes those that are new, and tells which were made
 * smaller. What fails here costs nothing that was restored.
 */
final class Growing {
    private Growing() {
    }

    /** @return how the writing ended, with a sentence for each file system that was to grow or was made smaller */
    static RestoreOutcome written(ChunkSource source, RestoreLayout layout, TargetWork.How how, RestoreTarget target, Watch watch)
        throws IOException {
        RestoreOutcome written = new TargetWork(source, layout, how, watch).onto(target);
        List<String> told = new ArrayList<>(written.lengths());
        Optional<Path> place = written.differences().isEmpty() ? target.place() : Optional.empty();
        for (Placed each : layout.placed()) {
            if (each.shrunk()) {
                told.add(FileSystemLength.of(each.to().label()) + " was made smaller, and is sound." + checked(each));
            }
            if (each.restored() && each.to().sizeBytes() > each.from().sizeBytes() && FileSystemLength.changes(each.fileSystem())
                && place.isPresent()) {
                told.add(grown(each, place.get(), watch));
            }
        }
        for (Added each : place.isPresent() ? layout.added() : List.<Added>of()) {
            told.add(made(each, place.get(), layout.target().sectorBytes()));
        }
        return written.lengths(told);
    }

    /** ntfsresize always asks for that (its manual page). */
    private static String checked(Placed each) {
        return each.fileSystem().equals("ntfs") ? " Its system checks it once more at its first start." : "";
    }

    private static String grown(Placed each, Path target, Watch watch) throws IOException {
        String label = each.to().label();
        try (LoopDevice device = LoopDevice.over(target, each.to())) {
            new FileSystemLength(device.path(), each.fileSystem(), label, watch).grow();
            return FileSystemLength.of(label) + " fills it." + checked(each);
        } catch (FaultException failed) {
            return "All was written, but " + label + " has more room than its file system takes: " + failed.fault().sentence()
                + " Let it grow by hand.";
        }
    }

    private static String made(Added each, Path target, int sectorBytes) throws IOException {
        String label = each.to().label();
        String kind = each.fileSystem().word();
        try (LoopDevice device = LoopDevice.over(target, each.to())) {
            NewFileSystem.make(kind, each.label(), device.path(), each.to().startBytes() / sectorBytes, sectorBytes,
                "What was restored is complete.");
            try (RawSource there = RawSource.open(device.path())) {
                String found = FileSystems.kind(there, 0, there.sizeBytes());
                if (!found.equals(kind)) {
                    throw Fault.of(Fault.Kind.DAMAGED, label, "what was made there reads as " + found + ".").asException();
                }
            }
            return FileSystemLength.of(label) + " was made new, empty, with " + kind + ".";
        } catch (FaultException failed) {
            return "All was written, but " + label + " has no file system yet: " + failed.fault().sentence() + " Make one by hand.";
        }
    }
}
