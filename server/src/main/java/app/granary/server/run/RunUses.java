package app.granary.server.run;

import app.granary.server.image.Uses;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** Runs that read or mend an image, or wait to. */
@Component
class RunUses implements Uses {
    private final RunRepository runs;

    RunUses(RunRepository runs) {
        this.runs = runs;
    }

    @Override
    public Map<UUID, Set<String>> now() {
        return Stream.of(Run.State.RUNNING, Run.State.QUEUED).flatMap(state -> runs.findByState(state).stream()).filter(run -> run.imageId() != null)
            .collect(Collectors.groupingBy(Run::imageId, Collectors.mapping(run -> "a " + run.kind().word() + " of " + run.imageName() + (run.state() == Run.State.RUNNING ? " is under way" : " waits"),
                Collectors.toSet())));
    }
}
