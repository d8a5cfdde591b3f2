package app.granary.bench;

import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutTarget;
import app.granary.engine.host.OverwriteWork;
import app.granary.engine.host.Overwriting;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.RestoreOutcome;
import app.granary.engine.restore.RestoreTarget;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Making a spare like its disk again, of which 3 % changed, beside reading both by a general tool. */
final class RefreshBench {
    private static final long CHANGED = 92L << 20;

    private final Measure measure;

    RefreshBench(Measure measure) {
        this.measure = measure;
    }

    void run() throws IOException, InterruptedException {
        Path disk = measure.folder.resolve("lived.img");
        Path spare = measure.folder.resolve("spare.img");
        List<Double> times = new ArrayList<>();
        List<Double> written = new ArrayList<>();
        Tool.shell("cd '" + measure.folder
            + "' && rm -rf in lived.img spare.img && mkdir in && for i in $(seq 96); do head -c 32M /dev/urandom "
            + "> in/noise$i; done && truncate -s 4G lived.img && mkfs.ext4 -q -F -d in lived.img && rm -rf in && truncate -s 4G spare.img");
        copy(disk, spare, false);
        for (int i = 0; i <= measure.rounds; i++) {
            Tool.shell("cd '" + measure.folder + "' && head -c " + CHANGED
                + " /dev/urandom > news && debugfs -w -R 'rm news' lived.img 2> said; "
                + "debugfs -w -R 'write news news' lived.img > said 2>&1");
            cold();
            double plain = Tool.shell("cat '" + disk + "' '" + spare + "' > /dev/null");
            cold();
            long began = System.nanoTime();
            long bytes = copy(disk, spare, true);
            double took = (System.nanoTime() - began) / 1e9;
            if (i > 0) {
                times.add(took / plain);
                written.add(bytes / (double) CHANGED);
            }
        }
        measure.report("refreshing a spare of which 3 % changed, to reading it and its disk", times, 1.2);
        measure.report("bytes written by that, to those that changed", written, 1.1);
        Tool.shell("cd '" + measure.folder + "' && rm -f lived.img spare.img news said");
    }

    private static void cold() throws IOException, InterruptedException {
        Tool.shell("sync; echo 1 > /proc/sys/vm/drop_caches 2> /dev/null || true");
    }

    private static long copy(Path disk, Path spare, boolean onlyChanges) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            RestoreOutcome outcome = OverwriteWork.copy(source, SurveyChoice.USED,
                LayoutTarget.blank(Files.size(spare), source.sectorBytes(), Firmware.UNKNOWN),
                RestoreTarget.device(spare, 0, source.sectorBytes()), LayoutChoice.KEEP,
                new Overwriting.How(false, false, false, false, onlyChanges), needed -> spare.getParent(), Watch.NONE);
            if (!outcome.differences().isEmpty()) {
                throw new IOException(outcome.differences().get(0).message());
            }
            return outcome.writtenBytes();
        }
    }
}
