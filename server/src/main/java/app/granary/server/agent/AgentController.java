package app.granary.server.agent;

import app.granary.server.home.GranarySettings;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Codes for computers to join by, and which are here. */
@RestController
@RequestMapping("/api/v1/agents")
class AgentController {
    private final Agents agents;
    private final AgentsHere here;
    private final JoinCodes codes;
    private final GranarySettings settings;
    private final Optional<AgentPort> port;
    private final Journal journal;

    AgentController(Agents agents, AgentsHere here, JoinCodes codes, GranarySettings settings, Optional<AgentPort> port, Journal journal) {
        this.agents = agents;
        this.here = here;
        this.codes = codes;
        this.settings = settings;
        this.port = port;
        this.journal = journal;
    }

    /**
     * @param command what to type on the computer that is to join
     */
    record CodeMade(String code, Instant expiresAt, String command) {
    }

    /** Good once, for a quarter of an hour, and shown only now. */
    @PostMapping("/codes")
    CodeMade code(Principal who) throws IOException {
        AgentPort open = port.orElseThrow(() -> new Refused(HttpStatus.CONFLICT, "not-listening", "",
            "This Granary listens for no other computers. Start it with --listen and an address of this machine that they reach."));
        JoinCodes.Made made = codes.make(OfficeCertificate.of(settings).digest(), who.getName());
        journal.add(who.getName(), "make code", "agents", Journal.Result.NOTE, who.getName() + " made a code for a computer to join by.");
        String address = Listen.parse(settings.listen()).address() + ":" + open.port();
        return new CodeMade(made.code().text(), made.expiresAt(), "granary-agent join https://" + address + " --code "
            + made.code().text());
    }

    /**
     * @param computerId the computer on record that it is; null for one that is on no record
     * @param state      "here", or "silent" when it was not heard of for half a minute
     * @param disks      how many it told of
     */
    record AgentLine(UUID id, String name, @Schema(types = {"string", "null"}) UUID computerId, String state, Instant since, int disks) {
    }

    @GetMapping
    List<AgentLine> all() {
        return here.all().stream().map(each -> new AgentLine(each.id(), each.name(), agents.computerOf(each).orElse(null),
            here.silent(each) ? "silent" : "here", each.since(), each.state().map(told ->
            told.computer().disks().size()).orElse(0))).toList();
    }

    @DeleteMapping("/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void sendAway(@PathVariable UUID id, Principal who) throws IOException {
        agents.sendAway(id, who.getName());
    }
}
