package app.granary.server.run;

import app.granary.server.image.Uses;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunRecords;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Runs that read or repair an image, or wait to. */
@Component
class RunUses implements Uses {
    private final RunRecords runs;

    RunUses(RunRecords runs) {
        this.runs = runs;
    }

    @Override
    public Map<UUID, Set<String>> now() {
        return runs.open().stream().filter(run -> run.copyId() != null)
            .collect(Collectors.groupingBy(Run::copyId,
                Collectors.mapping(
                    run -> "a " + run.kind().word() + " of " + run.imageName()
                        + (run.state() == Run.State.RUNNING ? " is under way" : " waits"),
                    Collectors.toSet())));
    }
}
