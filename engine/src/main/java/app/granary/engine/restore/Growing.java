package app.granary.engine.restore;

import app.granary.core.fault.FaultException;
import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.progress.Watch;
import app.granary.engine.tool.SystemTool;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * Lets file systems grow into their partitions once all was written and compared, and tells which were made smaller. A loop device over the
 * partition does for disks and for files alike, and whether or not the system has looked at the new table yet. What fails here costs
 * nothing: the file system is as it was.
 */
final class Growing {
    private static final Duration PATIENCE = Duration.ofMinutes(1);
    private static final String LOOP = "losetup";

    private Growing() {
    }

    /** @return how the writing ended, with a sentence for each file system that was to grow or was made smaller */
    static RestoreOutcome written(ChunkSource source, RestoreLayout layout, TargetWork.How how, RestoreTarget target, Watch watch)
        throws IOException {
        RestoreOutcome written = new TargetWork(source, layout, how, watch).onto(target);
        List<String> told = new ArrayList<>(written.lengths());
        for (Placed each : layout.placed()) {
            if (each.shrunk()) {
                told.add(FileSystemLength.of(each.to().label()) + " was made smaller, and is sound." + checked(each));
            }
            if (each.restored() && each.to().sizeBytes() > each.from().sizeBytes() && FileSystemLength.changes(each.fileSystem())
                && written.differences().isEmpty() && target.place().isPresent()) {
                told.add(grown(each, target.place().get(), watch));
            }
        }
        return written.lengths(told);
    }

    /** ntfsresize always asks for that (its manual page). */
    private static String checked(Placed each) {
        return each.fileSystem().equals("ntfs") ? " Its system checks it once more at its first start." : "";
    }

    private static String grown(Placed each, Path target, Watch watch) throws IOException {
        String label = each.to().label();
        try {
            Path loop = loop(each, target);
            try {
                new FileSystemLength(loop, each.fileSystem(), label, watch).grow();
            } finally {
                SystemTool.run(List.of(LOOP, "-d", loop.toString()), true, PATIENCE, "Install mount, and try again.");
            }
            return FileSystemLength.of(label) + " fills it." + checked(each);
        } catch (FaultException failed) {
            return "All was written, but " + label + " has more room than its file system takes: " + failed.fault().sentence()
                + " Let it grow by hand.";
        }
    }

    private static Path loop(Placed each, Path target) throws IOException {
        SystemTool.Said said = SystemTool.run(List.of(LOOP, "--find", "--show", "--offset", "" + each.to().startBytes(), "--sizelimit", ""
            + each.to().sizeBytes(), target.toString()), true, PATIENCE, "Install mount, and try again.");
        if (said.exit() != 0) {
            throw app.granary.core.fault.Fault.of(app.granary.core.fault.Fault.Kind.DEVICE_FAILED, target.toString(),
                "no loop device could be had (" + said.text() + ").").asException();
        }
        return Path.of(said.text());
    }
}
