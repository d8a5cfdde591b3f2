package app.granary.standins;

import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.IOException;

/** Hands progress on in the office's sizes, and holds the work back to the pace of the made-up devices. */
final class PacedWatch implements Watch {
    private static final long NAP_MILLIS = 20;

    private final Watch watch;
    private final Scale scale;
    private final long readRateBytes;
    private final LinkRate linkRate;
    private final StandInFaults faults;
    private final String driveId;
    private Progress.Stage stage = Progress.Stage.SAMPLING;
    private long beganNanos;

    /** Bytes per second over the drive's link, as it is now. */
    interface LinkRate {
        long bytes();
    }

    PacedWatch(Watch watch, Scale scale, long readRateBytes, LinkRate linkRate, StandInFaults faults, String driveId) {
        this.watch = watch;
        this.scale = scale;
        this.readRateBytes = readRateBytes;
        this.linkRate = linkRate;
        this.faults = faults;
        this.driveId = driveId;
    }

    @Override
    public void advanced(Progress real) {
        Progress progress = scale.of(real);
        if (progress.stage() != stage) {
            stage = progress.stage();
            beganNanos = System.nanoTime();
        }
        watch.advanced(progress);
        while (System.nanoTime() - beganNanos < due(progress) * 1e9 && !watch.stopRequested() && !faults.unplugged(driveId)) {
            try {
                Thread.sleep(NAP_MILLIS);
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
                return;
            }
        }
    }

    private double due(Progress progress) {
        long link = Math.max(1, linkRate.bytes());
        return stage == Progress.Stage.CAPTURING
            ? Math.max((double) progress.doneBytes() / readRateBytes, (double) progress.storedBytes() / link)
            : (double) progress.doneBytes() / link;
    }

    /** A drive that was pulled out or is full fails the work that uses it, and time waited for a person does not count as the device's. */
    @Override
    public void requireGoingOn(String what) throws IOException {
        long asked = System.nanoTime();
        watch.requireGoingOn(what);
        beganNanos += System.nanoTime() - asked;
        faults.requireWorking(driveId,
            stage == Progress.Stage.CAPTURING || stage == Progress.Stage.COPYING || stage == Progress.Stage.MENDING);
    }

    @Override
    public boolean stopRequested() {
        return watch.stopRequested();
    }
}
