package app.granary.standins;

import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;

/** Hands progress on in the office's sizes, and holds the work back to the pace of the made-up devices. */
final class PacedWatch implements Watch {
    private static final long NAP_MILLIS = 20;

    private final Watch watch;
    private final Scale scale;
    private final long readRateBytes;
    private final long linkRateBytes;
    private Progress.Stage stage = Progress.Stage.RESTORING;
    private long beganNanos;

    PacedWatch(Watch watch, Scale scale, long readRateBytes, long linkRateBytes) {
        this.watch = watch;
        this.scale = scale;
        this.readRateBytes = readRateBytes;
        this.linkRateBytes = linkRateBytes;
    }

    @Override
    public void advanced(Progress real) {
        Progress progress = scale.of(real);
        if (progress.stage() != stage) {
            stage = progress.stage();
            beganNanos = System.nanoTime();
        }
        watch.advanced(progress);
        double due = stage == Progress.Stage.CAPTURING
            ? Math.max((double) progress.doneBytes() / readRateBytes, (double) progress.storedBytes() / linkRateBytes)
            : (double) progress.doneBytes() / linkRateBytes;
        while (System.nanoTime() - beganNanos < due * 1e9 && !watch.stopRequested()) {
            try {
                Thread.sleep(NAP_MILLIS);
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
                return;
            }
        }
    }

    @Override
    public boolean stopRequested() {
        return watch.stopRequested();
    }
}
