package app.granary.server.run;

import app.granary.core.fault.FaultException;
import app.granary.core.plan.Afterwards;
import app.granary.engine.site.Site;
import app.granary.server.journal.Journal;
import java.io.IOException;
import java.util.Optional;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** What becomes of a computer when its image is made. Only after one that is sound: a computer whose image failed stays as it is, to be tried again. */
@Component
class Completion {
    private final Site site;
    private final RunWork work;
    private final Journal journal;

    Completion(Site site, RunWork work, Journal journal) {
        this.site = site;
        this.work = work;
        this.journal = journal;
    }

    @EventListener
    void ended(RunQueue.Ended ended) {
        Run run = ended.run();
        if (run.kind() != Run.Kind.CAPTURE || run.state() != Run.State.DONE) {
            return;
        }
        Optional<Afterwards> wanted = Afterwards.parse(work.order(run).afterwards()).filter(each -> each != Afterwards.NOTHING);
        if (wanted.isEmpty()) {
            return;
        }
        try {
            site.afterwards(run.diskId(), wanted.get());
            journal.add(run.begunBy(), "afterwards", run.computer(), Journal.Result.DONE, run.computer() + " " + wanted.get().phrase() + ", as its plan says.");
        } catch (FaultException refused) {
            journal.add(run.begunBy(), "afterwards", run.computer(), Journal.Result.FAILED, refused.getMessage());
        } catch (IOException failed) {
            journal.add(run.begunBy(), "afterwards", run.computer(), Journal.Result.FAILED, run.computer() + " was to be " + wanted.get().word() + ", which failed: " + failed.getMessage() + ".");
        }
    }
}
