package app.granary.server.run;

import app.granary.core.plan.Afterwards;
import app.granary.server.capture.Completion;
import app.granary.server.capture.RunMail;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunQueue;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Runs that are under way, as pages show them. */
@Component
class LiveLines {
    private final RunQueue queue;
    private final Completion completion;
    private final RunMail mail;

    LiveLines(RunQueue queue, Completion completion, RunMail mail) {
        this.queue = queue;
        this.completion = completion;
        this.mail = mail;
    }

    /**
     * A run as it stands.
     *
     * @param stage       "capturing", "checking", "restoring", "comparing", "copying" or "repairing"
     * @param doneBytes   of this stage
     * @param rateBytes   per second, of this stage so far; 0 before it is known
     * @param likelyBytes first estimate of what is written; lowSeconds and highSeconds of the time in all; 0 where there is none
     * @param afterwards  what becomes of the computer when it has ended well: "nothing", "off" or "restart"
     * @param mailTo      who is told how it ended, besides those of its night, with commas between; an empty string for nobody
     * @param askedAfter  whether it went on at another machine while Granary was away, and is not heard of yet
     */
    record Live(UUID id, String kind, String computer, String disk, String serial, String destination, String imageName, String stage,
        long doneBytes, long totalBytes, long storedBytes, long rateBytes,
        double lowSecondsLeft, double highSecondsLeft, long likelyBytes, double lowSeconds, double highSeconds, boolean paused,
        boolean lowPriority, String afterwards, String mailTo, boolean askedAfter) {
        static Live from(LiveRun running, Afterwards then, List<String> told) {
            Run run = running.run();
            var left = running.timeLeft();
            return new Live(run.id(), run.kind().word(), run.computer(), run.disk(), running.serial(), run.destination(), run.imageName(),
                running.progress().stage().word(),
                running.progress().doneBytes(), running.progress().totalBytes(), running.progress().storedBytes(), running.rateBytes(),
                left.lowSeconds(), left.highSeconds(), run.likelyBytes(), run.lowSeconds(),
                run.highSeconds(), running.paused(), running.low(), then.word(), String.join(", ", told), running.askedAfter());
        }
    }

    List<Live> now() {
        return queue.underWay().stream().map(each -> Live.from(each, completion.of(each.run()), mail.of(each.run()))).toList();
    }
}
