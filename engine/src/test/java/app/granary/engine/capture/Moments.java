package app.granary.engine.capture;

import app.granary.engine.media.Tools;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.nio.file.Path;

/** Copies what an unfinished capture has on the destination, at a moment of its progress: what is left when the program is killed then. */
final class Moments implements Watch {
    private final Path from;
    private final Path to;
    private final double share;
    private final Progress.Stage stage;
    private boolean done;

    Moments(Path from, Path to, Progress.Stage stage, double share) {
        this.from = from;
        this.to = to;
        this.stage = stage;
        this.share = share;
    }

    boolean done() {
        return done;
    }

    @Override
    public void advanced(Progress progress) {
        if (!done && progress.stage() == stage && progress.doneBytes() >= progress.totalBytes() * share) {
            done = true;
            Tools.run(from, "mkdir -p " + to + "; cp -r *.partial *.partial.log " + to);
        }
    }

    @Override
    public boolean stopRequested() {
        return false;
    }
}
