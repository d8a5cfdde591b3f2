package app.granary.server.agent;

import app.granary.engine.bag.Digests;
import app.granary.engine.host.HostDisk;
import app.granary.engine.hosts.Member;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.springframework.boot.context.event.ApplicationStartedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Which computers have joined, and who shows what. Safe for several threads. */
@Component
class AgentsHere {
    /** One that was not heard of for so long is told as silent. */
    static final Duration SILENT = Duration.ofSeconds(30);
    private static final String BEARER = "Bearer ";
    /** A cable that was pulled for a moment takes nothing off the pages. */
    private static final Duration A_MOMENT = Duration.ofSeconds(15);
    private static final long NOTED_MILLIS = 60_000;

    private final Map<UUID, Agent> here = new ConcurrentHashMap<>();
    private final AgentRowRepository rows;
    private final Clock clock;

    AgentsHere(AgentRowRepository rows, Clock clock) {
        this.rows = rows;
        this.clock = clock;
    }

    void add(Agent agent) {
        rows.save(new AgentRow(agent));
        here.put(agent.id(), agent);
    }

    /** What it is known again by. */
    void told(Agent agent) {
        Set<String> disks = agent.state().map(told -> told.computer().disks().stream().map(HostDisk::id).collect(Collectors.toSet()))
            .orElseGet(Set::of);
        if (agent.toldOf(disks)) {
            rows.findById(agent.id()).ifPresent(row -> {
                row.told(disks);
                rows.save(row);
            });
        }
    }

    void remove(Agent agent) {
        here.remove(agent.id());
        rows.deleteById(agent.id());
    }

    /** Empty when there is none by that id. */
    Optional<Agent> find(UUID id) {
        return Optional.ofNullable(here.get(id));
    }

    int count() {
        return here.size();
    }

    /** Whoever shows a token; empty for nobody. */
    Optional<Agent> of(String token) {
        byte[] digest = digest(token);
        return here.values().stream().filter(each -> each.shows(digest)).findFirst();
    }

    static byte[] digest(String token) {
        return Digests.sha256().digest(token.getBytes(StandardCharsets.UTF_8));
    }

    /** Those that had joined before Granary was stopped come back by themselves. */
    @EventListener(ApplicationStartedEvent.class)
    void remember() {
        rows.findAll().forEach(row -> here.putIfAbsent(row.id(), row.agent()));
    }

    /** Whoever shows a token in a header, as {@code Bearer TOKEN}; empty for nobody. */
    Optional<Agent> shownBy(String header) {
        return header != null && header.startsWith(BEARER) ? of(header.substring(BEARER.length())) : Optional.empty();
    }

    /** Also while Granary is starting, and knows those that had joined by their rows alone. */
    boolean mayBeHeardOf(UUID id) {
        return here.containsKey(id) || rows.existsById(id);
    }

    boolean knows(Agent agent) {
        return here.get(agent.id()) == agent;
    }

    void heard(Agent agent) {
        agent.heard(clock.instant());
    }

    boolean silent(Agent agent) {
        return agent.heardAt().isBefore(clock.instant().minus(SILENT));
    }

    /** As members of the office's host: those that are here, or were a moment ago. */
    List<Member> members() {
        Instant now = clock.instant();
        return all().stream().filter(each -> each.state().isPresent()
            && (each.host().here() || each.heardAt().isAfter(now.minus(A_MOMENT))))
            .map(each -> new Member(each.machine(), each.host())).toList();
    }

    /** Since when nothing was heard of each, across restarts. */
    @Scheduled(fixedDelay = NOTED_MILLIS, initialDelay = NOTED_MILLIS)
    void note() {
        for (Agent each : all()) {
            if (each.host().here()) {
                rows.findById(each.id()).ifPresent(row -> {
                    row.heard(each.heardAt());
                    rows.save(row);
                });
            }
        }
    }

    /** In order of name. */
    List<Agent> all() {
        return here.values().stream().sorted(Comparator.comparing(Agent::name).thenComparing(Agent::since)).toList();
    }
}
