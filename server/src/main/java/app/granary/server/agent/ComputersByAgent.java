package app.granary.server.agent;

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
    private final Clock clock;

    ComputersByAgent(AgentsHere here, Agents agents, Clock clock) {
        this.here = here;
        this.agents = agents;
        this.clock = clock;
    }

    /** Since when it is here; empty when it is not here now. */
    public Optional<Instant> since(UUID computerId) {
        return here.all().stream().filter(each -> each.host().here() && agents.computerOf(each).equals(Optional.of(computerId)))
            .map(Agent::since).findFirst();
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
