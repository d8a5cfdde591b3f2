package app.granary.server.agent;

import app.granary.engine.line.Message;
import app.granary.server.change.Changes;
import app.granary.server.computer.DisksChanged;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.computer.ComputersOnRecord;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import app.granary.server.target.TypedThere;
import java.io.IOException;
import java.security.SecureRandom;
import java.time.Clock;
import java.util.Collections;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;

/** The computers that are here by their agents. Safe for several threads. */
@Service
class Agents {
    /** More computers than an office has at once are no office's. */
    private static final int MOST = 200;
    private static final int TOKEN_BYTES = 32;

    private final SecureRandom random = new SecureRandom();
    private final AgentsHere here;
    private final Lendings lendings;
    private final DisksOnRecord disks;
    private final ComputersOnRecord computers;
    private final TypedThere typedThere;
    private final Changes changes;
    private final Journal journal;
    private final ApplicationEventPublisher events;
    private final Clock clock;

    Agents(AgentsHere here, Lendings lendings, DisksOnRecord disks, ComputersOnRecord computers, Changes changes, Journal journal,
        TypedThere typedThere, ApplicationEventPublisher events, Clock clock) {
        this.typedThere = typedThere;
        this.events = events;
        this.here = here;
        this.lendings = lendings;
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
        if (here.count() >= MOST) {
            throw new Refused(org.springframework.http.HttpStatus.SERVICE_UNAVAILABLE, "too-many-agents", "",
                MOST + " computers have joined already. Send those away that are not needed.");
        }
        byte[] token = new byte[TOKEN_BYTES];
        random.nextBytes(token);
        String text = HexFormat.of().formatHex(token);
        Agent agent = new Agent(UUID.randomUUID(), name, codeBy, AgentsHere.digest(text), clock.instant(), clock.instant(), Set.of());
        here.add(agent);
        journal.add(codeBy, "join", name, Journal.Result.NOTE, name + " joined the office by a code of " + codeBy + ".");
        changes.note(Changes.Noun.COMPUTERS);
        return new Joined(agent, text);
    }

    /** It told what it is and has. One that has its disks, and is silent, was the same computer before it joined anew. */
    void told(Agent agent) throws IOException {
        here.told(agent);
        for (Agent before : here.all()) {
            if (before != agent && !before.host().here() && !Collections.disjoint(before.disks(), agent.disks())) {
                end(before);
            }
        }
        events.publishEvent(new DisksChanged());
        changes.note(Changes.Noun.COMPUTERS);
        changes.note(Changes.Noun.TARGETS);
    }

    /** Whoever stands there confirms that a disk of it may be overwritten; of another's disks nothing is heard from it. */
    void typed(Agent agent, Message.Typed typed) {
        agent.state().stream().flatMap(told -> told.targets().stream()).filter(each -> each.id().equals(typed.targetId())).findFirst()
            .ifPresent(target -> {
                typedThere.typed(target, typed.typed(), agent.name());
                journal.add(agent.joinedBy(), "confirm", agent.name(), Journal.Result.NOTE, "At the console of " + agent.name()
                    + " somebody typed what confirms that " + target.inFull() + " may be overwritten.");
                changes.note(Changes.Noun.TARGETS);
            });
    }

    private void end(Agent agent) throws IOException {
        here.remove(agent);
        agent.host().end();
        lendings.takeBack(agent.id());
    }

    /** The computer on record that it is: by the serials of its disks, else by its name; empty for one that is on no record. */
    Optional<UUID> computerOf(Agent agent) {
        List<String> serials = agent.state().map(told -> told.computer().disks().stream().map(disk -> disk.identity().serial())
            .filter(serial -> !serial.isBlank()).toList()).orElse(List.of());
        return disks.all().stream().filter(disk -> serials.contains(disk.identity().serial())).findFirst()
            .map(DisksOnRecord.DiskOnRecord::computerId).or(() -> computers.id(agent.name()).map(UUID::fromString));
    }

    /** It is not spoken with any more; what it shows itself by is worth nothing. */
    void sendAway(UUID id, String who) throws IOException {
        Agent gone = here.find(id).orElseThrow(() -> Refused.notFound("agent"));
        end(gone);
        journal.add(who, "send away", gone.name(), Journal.Result.NOTE, gone.name() + " was sent away; it may join again with a new code.");
        changes.note(Changes.Noun.COMPUTERS);
    }
}
