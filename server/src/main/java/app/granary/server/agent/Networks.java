package app.granary.server.agent;

import app.granary.core.machine.Network;
import app.granary.server.change.Changes;
import app.granary.server.computer.DisksRead;
import java.time.Clock;
import java.util.Optional;
import java.util.UUID;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** What the network to each computer carries: measured when it joins, and kept for the next time it does. */
@Component
class Networks {
    private final AgentsHere here;
    private final Agents agents;
    private final NetworkRowRepository rows;
    private final Changes changes;
    private final Clock clock;

    Networks(AgentsHere here, Agents agents, NetworkRowRepository rows, Changes changes, Clock clock) {
        this.here = here;
        this.agents = agents;
        this.rows = rows;
        this.changes = changes;
        this.clock = clock;
    }

    void measured(Agent agent, Network network) {
        agent.measured(network);
        keep(agent);
        changes.note(Changes.Noun.COMPUTERS);
        changes.note(Changes.Noun.DESTINATIONS);
    }

    /** A computer that is on no record when it is measured is on one a moment later. */
    @EventListener
    void read(DisksRead disks) {
        here.all().forEach(this::keep);
    }

    private void keep(Agent agent) {
        agents.computerOf(agent).ifPresent(computer -> agent.machine().network().ifPresentOrElse(network -> {
            if (of(computer).filter(network::equals).isEmpty()) {
                rows.save(new NetworkRow(computer, network, clock.instant()));
            }
        }, () -> of(computer).ifPresent(agent::measured)));
    }

    /** As it was measured last; empty for a computer that never joined. */
    Optional<Network> of(UUID computer) {
        return rows.findById(computer).map(NetworkRow::network);
    }
}
