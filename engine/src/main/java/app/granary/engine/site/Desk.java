package app.granary.engine.site;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.engine.bag.ImageName;
import app.granary.engine.capture.Capture;
import app.granary.engine.capture.CaptureRequest;
import app.granary.engine.capture.CaptureResult;
import app.granary.engine.progress.Watch;
import app.granary.engine.sample.SizeSampler;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;

/** The engine's work on one opened disk, as every site does it. */
public final class Desk {
    private Desk() {
    }

    public static SiteEstimate estimate(BlockSource source, Storage storage, Watch watch) throws IOException {
        DiskSurvey survey = DiskSurvey.of(source, storage.choice());
        long began = System.nanoTime();
        SizeEstimate size = SizeSampler.estimate(source, survey, storage.codec(), storage.level(), seed(survey), watch);
        SizeEstimate inParts = storage.splitBytes().isPresent() ? size.inParts(storage.splitBytes().getAsLong()) : size;
        long nanos = Math.max(1, System.nanoTime() - began);
        long rate = size.sampledBytes() == 0 ? Links.NVME : (long) Math.max(1, size.sampledBytes() * 1e9 / nanos);
        return new SiteEstimate(inParts, rate);
    }

    /** The same disk, untouched, gives the same estimate twice; another disk, or the same one changed, is drawn from anew. */
    private static long seed(DiskSurvey survey) {
        return survey.sizeBytes() * 31 + survey.usedBytes();
    }

    public static CaptureResult capture(BlockSource source, DiskIdentity identity, Storage storage, String name, Path folder, Clock clock, Watch watch) throws IOException {
        DiskSurvey survey = DiskSurvey.of(source, storage.choice());
        return Capture.run(source, survey, new CaptureRequest(ImageName.parse(name), storage.codec(), storage.level(), storage.splitBytes(), identity, true),
            folder, clock, watch);
    }
}
