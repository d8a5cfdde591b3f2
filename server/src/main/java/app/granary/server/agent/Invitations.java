package app.granary.server.agent;

import app.granary.server.home.GranarySettings;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.net.URI;
import java.time.Instant;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** By what a computer joins: the address it reaches this Granary at, and a code. */
@Service
public class Invitations {
    private final JoinCodes codes;
    private final GranarySettings settings;
    private final Optional<AgentPort> port;
    private final Journal journal;

    Invitations(JoinCodes codes, GranarySettings settings, Optional<AgentPort> port, Journal journal) {
        this.codes = codes;
        this.settings = settings;
        this.port = port;
        this.journal = journal;
    }

    /** @param code good once, until it expires */
    public record Invitation(URI address, String code, Instant expiresAt) {
    }

    /** @throws Refused when nobody is listened for */
    public Invitation make(String who) throws IOException {
        AgentPort open = open();
        URI address = URI.create("https://" + Listen.parse(settings.listen()).address() + ":" + open.port());
        JoinCodes.Made made = codes.make(open.certificate().digest(), who);
        journal.add(who, "make code", "agents", Journal.Result.NOTE, who + " made a code for a computer to join by.");
        return new Invitation(address, made.code().text(), made.expiresAt());
    }

    private AgentPort open() {
        return port.orElseThrow(() -> new Refused(HttpStatus.CONFLICT, "not-listening", "",
            "This Granary listens for no other computers. Start it with --listen and an address of this machine that they reach."));
    }
}
