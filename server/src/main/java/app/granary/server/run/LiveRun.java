package app.granary.server.run;

import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.util.function.Consumer;

/** Where a running piece of work stands, and the way to stop it. */
final class LiveRun implements Watch {
    private final Run run;
    private final String serial;
    private final Consumer<LiveRun> changed;
    private final long begunNanos = System.nanoTime();
    private volatile boolean stop;
    private volatile Progress progress = new Progress(Progress.Stage.CAPTURING, 0, 0, 0);
    private volatile long stageBegunNanos = begunNanos;

    LiveRun(Run run, String serial, Consumer<LiveRun> changed) {
        this.run = run;
        this.serial = serial;
        this.changed = changed;
        if (run.kind() == Run.Kind.CHECK) {
            progress = new Progress(Progress.Stage.CHECKING, 0, run.likelyBytes(), 0);
        }
    }

    Run run() {
        return run;
    }

    /** Serial of the disk it is about; empty when that has none. */
    String serial() {
        return serial;
    }

    Progress progress() {
        return progress;
    }

    void stop() {
        stop = true;
    }

    @Override
    public void advanced(Progress now) {
        if (now.stage() != progress.stage()) {
            stageBegunNanos = System.nanoTime();
        }
        progress = now;
        changed.accept(this);
    }

    @Override
    public boolean stopRequested() {
        return stop;
    }

    /** Raw bytes per second of this stage so far; 0 before anything was done. */
    long rateBytes() {
        double seconds = (System.nanoTime() - stageBegunNanos) / 1e9;
        return seconds < 0.2 ? 0 : (long) (progress.doneBytes() / seconds);
    }

    /**
     * Seconds left at the earliest and at the latest: this stage at its rate so far, a capture's reading back in proportion to the first
     * estimate; the range narrows as the work goes on.
     */
    double[] secondsLeft() {
        double elapsed = (System.nanoTime() - begunNanos) / 1e9;
        long rate = rateBytes();
        if (rate == 0 || progress.doneBytes() < progress.totalBytes() / 20) {
            return new double[] {Math.max(0, run.lowSeconds() - elapsed), Math.max(0, run.highSeconds() - elapsed)};
        }
        double left = (double) Math.max(0, progress.totalBytes() - progress.doneBytes()) / rate;
        double done = (double) progress.doneBytes() / Math.max(1, progress.totalBytes());
        if (run.kind() == Run.Kind.CAPTURE && progress.stage() == Progress.Stage.CAPTURING) {
            left += (run.lowSeconds() + run.highSeconds()) / 2 * 0.2;
        }
        double doubt = 0.25 * (1 - done) + 0.05;
        return new double[] {left * (1 - doubt), left * (1 + doubt)};
    }
}
