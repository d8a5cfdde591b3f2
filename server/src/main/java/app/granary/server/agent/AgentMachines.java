package app.granary.server.agent;

import app.granary.server.queue.MachinesJoined;
import java.util.UUID;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** Computers that joined, as the queue asks for them. Where nobody listens for them, none is heard of. */
@Component
class AgentMachines implements MachinesJoined {
    private final AgentsHere here;
    private final boolean listening;

    AgentMachines(AgentsHere here, @Value("${granary.listen:}") String listen) {
        this.here = here;
        this.listening = !listen.isEmpty();
    }

    @Override
    public boolean mayBeHeardOf(String machine) {
        return listening && here.mayBeHeardOf(UUID.fromString(machine));
    }
}
