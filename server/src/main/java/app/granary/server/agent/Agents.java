package app.granary.server.agent;

import app.granary.core.inventory.ComputerReport;
import app.granary.server.change.Changes;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.computer.ComputersOnRecord;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Service;

/** The computers that are here by their agents. They are known for as long as Granary runs; after that they join anew. */
@Service
class Agents {
    /** One that was not heard of for so long is told as silent. */
    static final Duration SILENT = Duration.ofSeconds(30);
    /** More computers than an office has at once are no office's. */
    private static final int MOST = 200;
    private static final int TOKEN_BYTES = 32;

    private final Map<UUID, Agent> here = new ConcurrentHashMap<>();
    private final SecureRandom random = new SecureRandom();
    private final DisksOnRecord disks;
    private final ComputersOnRecord computers;
    private final Changes changes;
    private final Journal journal;
    private final Clock clock;

    Agents(DisksOnRecord disks, ComputersOnRecord computers, Changes changes, Journal journal, Clock clock) {
        this.disks = disks;
        this.computers = computers;
        this.changes = changes;
        this.journal = journal;
        this.clock = clock;
    }

    /** One that has just joined, and the token it shows itself by from now on, which is kept nowhere. */
    record Joined(Agent agent, String token) {
    }

    Joined join(String name, String codeBy) {
        if (here.size() >= MOST) {
            throw new Refused(org.springframework.http.HttpStatus.SERVICE_UNAVAILABLE, "too-many-agents", "",
                MOST + " computers have joined already. Send those away that are not needed.");
        }
        byte[] token = new byte[TOKEN_BYTES];
        random.nextBytes(token);
        String text = HexFormat.of().formatHex(token);
        Agent agent = new Agent(name, codeBy, digest(text), clock.instant());
        here.put(agent.id(), agent);
        journal.add(codeBy, "join", name, Journal.Result.NOTE, name + " joined the office by a code of " + codeBy + ".");
        changes.note(Changes.Noun.COMPUTERS);
        return new Joined(agent, text);
    }

    /** Whoever shows a token; empty for nobody. */
    Optional<Agent> of(String token) {
        byte[] digest = digest(token);
        return here.values().stream().filter(each -> each.shows(digest)).findFirst();
    }

    private static byte[] digest(String token) {
        try {
            return MessageDigest.getInstance("SHA-256").digest(token.getBytes(StandardCharsets.UTF_8));
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    void told(Agent agent, ComputerReport report) {
        agent.reports(report);
        agent.heard(clock.instant());
        changes.note(Changes.Noun.COMPUTERS);
    }

    void heard(Agent agent) {
        agent.heard(clock.instant());
    }

    boolean silent(Agent agent) {
        return agent.heardAt().isBefore(clock.instant().minus(SILENT));
    }

    /** In order of name. */
    List<Agent> all() {
        return here.values().stream().sorted(Comparator.comparing(Agent::name).thenComparing(Agent::since)).toList();
    }

    /** The computer on record that it is: by the serials of its disks, else by its name; empty for one that is on no record. */
    Optional<UUID> computerOf(Agent agent) {
        List<String> serials = agent.report().map(told -> told.disks().stream().map(disk -> disk.identity().serial())
            .filter(serial -> !serial.isBlank()).toList()).orElse(List.of());
        return disks.all().stream().filter(disk -> serials.contains(disk.identity().serial())).findFirst()
            .map(DisksOnRecord.DiskOnRecord::computerId).or(() -> computers.id(agent.name()).map(UUID::fromString));
    }

    /** It is not spoken with any more; what it shows itself by is worth nothing. */
    void sendAway(UUID id, String who) {
        Agent gone = here.remove(id);
        if (gone == null) {
            throw Refused.notFound("agent");
        }
        journal.add(who, "send away", gone.name(), Journal.Result.NOTE, gone.name() + " was sent away; it may join again with a new code.");
        changes.note(Changes.Noun.COMPUTERS);
    }
}
