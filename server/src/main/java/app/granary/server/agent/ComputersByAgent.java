package app.granary.server.agent;

import app.granary.core.machine.Machine;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Which computers of the office are here by their agents, for those who plan with them. */
@Component
public class ComputersByAgent {
    private final AgentsHere here;
    private final Agents agents;
    private final Networks networks;
    private final Clock clock;

    ComputersByAgent(AgentsHere here, Agents agents, Networks networks, Clock clock) {
        this.networks = networks;
        this.here = here;
        this.agents = agents;
        this.clock = clock;
    }

    /** Whether any computer is. */
    public boolean any() {
        return here.all().stream().anyMatch(each -> each.host().here());
    }

    /** Since when it is here; empty when it is not here now. */
    public Optional<Instant> since(UUID computerId) {
        return here.all().stream().filter(each -> each.host().here() && agents.computerOf(each).equals(Optional.of(computerId)))
            .map(Agent::since).findFirst();
    }

    /**
     * The machine that will read the disks of a computer that is started from rescue media: itself, when it joined before; else the
     * office's own, to which they are attached.
     */
    public Machine whenBooted(UUID computerId, String name) {
        return networks.of(computerId).map(network -> new Machine(computerId.toString(), name,
            Optional.of(network))).orElse(Machine.OFFICE);
    }

    /** One of which nothing was heard. */
    public record Silent(String name, Instant heardAt) {
    }

    /** Those that were not sent away and of which nothing was heard for so long, in order of name. */
    public List<Silent> silentFor(Duration atLeast) {
        Instant latest = clock.instant().minus(atLeast);
        return here.all().stream().filter(each -> !each.host().here() && each.heardAt().isBefore(latest))
            .map(each -> new Silent(each.name(), each.heardAt())).toList();
    }
}
