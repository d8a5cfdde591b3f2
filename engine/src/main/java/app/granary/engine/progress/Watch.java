package app.granary.engine.progress;

import app.granary.core.fault.Fault;
import java.io.IOException;

/** Watches long work. Called often, from the thread that drives the work; must return quickly. */
public interface Watch {
    /** Nobody watches, nobody stops. */
    Watch NONE = new Watch() {
        @Override
        public void advanced(Progress progress) {
        }

        @Override
        public boolean stopRequested() {
            return false;
        }
    };

    void advanced(Progress progress);

    boolean stopRequested();

    /** Somebody at the machine that does the work holds it, or lets it go on. Called by another thread than the rest. */
    default void heldThere(boolean held) {
    }

    /** Under which key the work is asked of another machine, once for each piece of it. */
    default Errand errand() {
        return Errand.once();
    }

    /** @throws app.granary.core.fault.FaultException when a person asked to stop */
    default void requireGoingOn(String what) throws IOException {
        if (stopRequested()) {
            throw Fault.of(Fault.Kind.STOPPED, what, "Stopped as asked. Nothing was left on the destination under a final name.")
                .asException();
        }
    }

    /** What is asked before work goes on. */
    interface Question {
        void requireGoingOn(String what) throws IOException;
    }

    /** The same watch with another question, which asks this one where it should. */
    default Watch asking(Question question) {
        Watch told = this;
        return new Watch() {
            @Override
            public void advanced(Progress progress) {
                told.advanced(progress);
            }

            @Override
            public boolean stopRequested() {
                return told.stopRequested();
            }

            @Override
            public void requireGoingOn(String what) throws IOException {
                question.requireGoingOn(what);
            }
        };
    }
}
