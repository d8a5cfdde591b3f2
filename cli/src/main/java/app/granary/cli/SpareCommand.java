package app.granary.cli;

import app.granary.core.disk.BlockSource;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.fault.Fault;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.capture.CarefulSource;
import app.granary.engine.host.BlockDevices;
import app.granary.engine.host.OverwriteWork;
import app.granary.engine.host.Overwriting;
import app.granary.engine.restore.RestoreOutcome;
import app.granary.engine.restore.RestoreTarget;
import app.granary.engine.source.DeviceHold;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "spare", description = "Copies a disk as it is now onto another disk, to stand in for it.", mixinStandardHelpOptions = true)
final class SpareCommand implements Callable<Integer> {
    @Parameters(index = "0", paramLabel = "DISK", description = "a raw disk image file, or a block device")
    Path disk;
    @Mixin
    TargetArgument target;
    @Mixin
    LayoutOptions layout;
    @Option(names = "--refresh", description = "read the target first, and write only what differs: for a spare that grew old")
    boolean refresh;
    @Option(names = "--zero-unused", description = "write zeros where nothing is in use (default: a device keeps what it has there)")
    boolean zeroUnused;
    @Mixin
    Output output;

    @Override
    public Integer call() throws IOException {
        target.require();
        long began = System.nanoTime();
        try (DeviceHold held = BlockDevices.hold(disk); BlockSource source = RawSource.open(disk)) {
            if (target.isDevice() && target.path().toRealPath().equals(disk.toRealPath())) {
                throw Fault.of(Fault.Kind.FORBIDDEN, disk.toString(), disk + " is the source. Name another disk.").asException();
            }
            DiskSurvey survey = DiskSurvey.of(new CarefulSource(source), SurveyChoice.USED);
            int sectorBytes = target.sectorBytes(survey.sectorBytes());
            long bytes = target.bytes(source.sizeBytes(), sectorBytes);
            LayoutTarget into = target.into(bytes, sectorBytes);
            RestoreLayout planned = RestoreLayout.of(survey, into, layout.choice());
            RestoreOutcome outcome = target.write(bytes, planned.partitionBytes(), sectorBytes, to -> watched(source, into, to));
            Written.print(output, target.path(), outcome, (System.nanoTime() - began) / 1e9);
            return outcome.differences().isEmpty() && outcome.unread().isEmpty() ? 0 : 1;
        }
    }

    private RestoreOutcome watched(BlockSource source, LayoutTarget into, RestoreTarget to) throws IOException {
        try (ProgressLine watch = output.watch()) {
            return OverwriteWork.copy(source, SurveyChoice.USED, into, to, layout.choice(),
                new Overwriting.How(zeroUnused, false, false, false, refresh), needed -> layout.scratch(), watch);
        }
    }
}
