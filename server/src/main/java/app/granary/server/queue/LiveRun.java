package app.granary.server.queue;

import app.granary.core.estimate.TimeLeft;
import app.granary.engine.progress.Errand;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Rest;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.EnumMap;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;
import java.util.function.LongConsumer;

/** Where a running piece of work stands, and the way to stop it. */
public final class LiveRun implements Watch {
    private static final long PAUSE_MILLIS = 100;
    /** Between two chunks: a run of low priority moves some 25 MB a second at most while others work. */
    private static final long GIVE_WAY_MILLIS = 40;
    /** Part of a capture's time that reading back is thought to take until it has begun. */
    private static final double BACK_SHARE = 0.2;

    private final RunRow run;
    private final String serial;
    private final Consumer<LiveRun> changed;
    private final long begunNanos = System.nanoTime();
    private volatile boolean stop;
    private volatile boolean paused;
    /** By a person at the machine that does it. */
    private volatile boolean heldThere;
    private volatile boolean low;
    private volatile String machine = "";
    private final boolean again;
    private volatile boolean heard;
    private final AtomicInteger errands = new AtomicInteger();
    private volatile BooleanSupplier othersWork = () -> false;
    private volatile long pausedNanos;
    private volatile LongConsumer writing = stored -> {};
    private TimeLeft left;
    private long leftNanos;
    private final Map<Progress.Stage, Long> tookNanos = new EnumMap<>(Progress.Stage.class);
    private volatile Progress progress = new Progress(Progress.Stage.CAPTURING, 0, 0, 0);
    private volatile long stageBegunNanos = begunNanos;

    LiveRun(RunRow run, String serial, Consumer<LiveRun> changed) {
        this(run, serial, changed, false);
    }

    /** @param again whether it was under way before Granary was started anew, and went on at another machine */
    LiveRun(RunRow run, String serial, Consumer<LiveRun> changed, boolean again) {
        this.again = again;
        this.run = run;
        this.serial = serial;
        this.changed = changed;
        this.low = run.lowPriority();
        if (run.kind() != Run.Kind.CAPTURE) {
            progress = new Progress(Progress.Stage.CHECKING, 0, run.likelyBytes(), 0);
        }
    }

    public Run run() {
        return run;
    }

    /** As it is kept. */
    RunRow row() {
        return run;
    }

    /** What is known of it now that it begins. */
    public void expect(NewRun.Expected expected) {
        run.expect(expected);
    }

    /** @param copy that was made */
    public void made(UUID copy, long storedBytes) {
        run.made(copy, storedBytes);
    }

    /** Whether it was begun before Granary was started anew: what has to hold before it begins was asked then. */
    public boolean again() {
        return again;
    }

    /** Whether it is such a one, and nothing was heard of it yet. */
    public boolean askedAfter() {
        return again && !heard;
    }

    /** The same keys in the same order whenever the work is done: its first piece is the one that is asked after again. */
    @Override
    public Errand errand() {
        int which = errands.getAndIncrement();
        UUID key = UUID.nameUUIDFromBytes((run.id() + "/" + which).getBytes(StandardCharsets.UTF_8));
        return new Errand(key, again && which == 0);
    }

    /** Of the stages so far; nothing for one that is but heard of again. */
    Took took() {
        return again ? Took.NOTHING : new Took(seconds(Progress.Stage.CAPTURING), seconds(Progress.Stage.CHECKING));
    }

    void at(String where) {
        machine = where;
    }

    /** The machine that does it, among those that joined; an empty string for the office's own. */
    String machine() {
        return machine;
    }

    /** Serial of the disk it is about; empty when that has none. */
    public String serial() {
        return serial;
    }

    public Progress progress() {
        return progress;
    }

    public void stop() {
        stop = true;
    }

    /** @param taker is told the bytes written so far, whenever they change */
    public void whileWriting(LongConsumer taker) {
        writing = taker;
    }

    void pause(boolean now) {
        paused = now;
        heldThere &= now;
    }

    /** Whether a person holds it, here or at the machine that does it. */
    public boolean paused() {
        return paused || heldThere;
    }

    @Override
    public void heldThere(boolean held) {
        heldThere = held;
        changed.accept(this);
    }

    /** @param others whether runs of usual priority are under way, to which this one gives way */
    void giveWay(boolean now, BooleanSupplier others) {
        othersWork = others;
        low = now;
    }

    public boolean low() {
        return low;
    }

    /** A pause holds the work here, between two pieces of it; a run of low priority rests here while others work. */
    @Override
    public void requireGoingOn(String what) throws IOException {
        long asked = System.nanoTime();
        while (paused() && !stop) {
            rest(PAUSE_MILLIS);
        }
        pausedNanos += System.nanoTime() - asked;
        if (low && !stop && othersWork.getAsBoolean()) {
            rest(GIVE_WAY_MILLIS);
        }
        Watch.super.requireGoingOn(what);
    }

    private static void rest(long millis) throws IOException {
        Rest.millis(millis);
    }

    /** Seconds the work spent in some of its stages, pauses included. */
    synchronized double seconds(Progress.Stage... stages) {
        long nanos = 0;
        for (Progress.Stage stage : stages) {
            nanos += tookNanos.getOrDefault(stage, 0L) + (stage == progress.stage() ? System.nanoTime() - stageBegunNanos : 0);
        }
        return nanos / 1e9;
    }

    @Override
    public void advanced(Progress now) {
        heard = true;
        synchronized (this) {
            if (now.stage() != progress.stage()) {
                tookNanos.merge(progress.stage(), System.nanoTime() - stageBegunNanos, Long::sum);
                stageBegunNanos = System.nanoTime();
                pausedNanos = 0;
            }
            progress = now;
        }
        writing.accept(now.storedBytes());
        changed.accept(this);
    }

    @Override
    public boolean stopRequested() {
        return stop;
    }

    /** Raw bytes per second of this stage so far; 0 before anything was done. */
    public long rateBytes() {
        double seconds = (System.nanoTime() - stageBegunNanos - pausedNanos) / 1e9;
        return seconds < 0.2 ? 0 : (long) (progress.doneBytes() / seconds);
    }

    /** Time left: this stage at its rate so far, a capture's reading back in proportion to the first estimate. */
    public synchronized TimeLeft timeLeft() {
        double elapsed = (System.nanoTime() - begunNanos) / 1e9;
        long rate = rateBytes();
        if (rate == 0 || progress.doneBytes() < progress.totalBytes() / 20) {
            double low = Math.max(0, run.lowSeconds() - elapsed);
            return left = keep(new TimeLeft(low, Math.max(low, run.highSeconds() - elapsed)));
        }
        double seconds = (double) Math.max(0, progress.totalBytes() - progress.doneBytes()) / rate;
        double done = (double) progress.doneBytes() / Math.max(1, progress.totalBytes());
        boolean capturing = run.kind() == Run.Kind.CAPTURE && progress.stage() == Progress.Stage.CAPTURING;
        if (capturing) {
            seconds += (run.lowSeconds() + run.highSeconds()) / 2 * BACK_SHARE;
        }
        double since = (System.nanoTime() - leftNanos) / 1e9;
        TimeLeft before = left == null || run.highSeconds() == 0 && left.highSeconds() == 0 ? new TimeLeft(0, seconds * 2) : left;
        return left = keep(before.next(left == null || paused() ? 0 : since, seconds, capturing ? done * (1 - BACK_SHARE) : done));
    }

    private TimeLeft keep(TimeLeft now) {
        leftNanos = System.nanoTime();
        return now;
    }
}
