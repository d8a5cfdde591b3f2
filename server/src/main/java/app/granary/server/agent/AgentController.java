package app.granary.server.agent;

import app.granary.core.machine.Network;
import app.granary.engine.host.ImageStore;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Codes for computers to join by, and which are here. */
@RestController
@RequestMapping("/api/v1/agents")
class AgentController {
    private final Agents agents;
    private final AgentsHere here;
    private final Invitations invitations;
    private final AgentArchive archive;
    private final ImageStore store;
    private final Journal journal;

    AgentController(Agents agents, AgentsHere here, Invitations invitations, AgentArchive archive, ImageStore store,
        Journal journal) {
        this.archive = archive;
        this.store = store;
        this.agents = agents;
        this.here = here;
        this.invitations = invitations;
        this.journal = journal;
    }

    /**
     * @param command what to type on the computer that is to join
     * @param fetch   what fetches the agent first; an empty string when this Granary has none to give
     * @param digits  what the SHA-256 of the fetched archive must begin with; an empty string likewise
     */
    record CodeMade(String code, Instant expiresAt, String command, String fetch, String digits) {
    }

    /** Good once, for a quarter of an hour, and shown only now. */
    @PostMapping("/codes")
    CodeMade code(Principal who) throws IOException {
        Invitations.Invitation made = invitations.make(who.getName());
        String digits = archive.digits();
        return new CodeMade(made.code(), made.expiresAt(), "granary-agent join " + made.address() + " --code " + made.code(),
            digits.isEmpty() ? "" : "curl -kO " + made.address() + AgentPort.PATH + AgentArchive.NAME, digits);
    }

    /**
     * @param computerId the computer on record that it is; null for one that is on no record
     * @param state      "here", or "silent" when it was not heard of for half a minute
     * @param disks      how many it told of
     * @param upBytes    bytes a second its network carries to the office, measured after it joined; null until it was
     * @param downBytes  likewise from the office
     */
    record AgentLine(UUID id, String name, @Schema(types = {"string", "null"}) UUID computerId, String state, Instant since, int disks,
        @Schema(types = {"integer", "null"}) Long upBytes, @Schema(types = {"integer", "null"}) Long downBytes) {
    }

    @GetMapping
    List<AgentLine> all() {
        return here.all().stream().map(each -> new AgentLine(each.id(), each.name(), agents.computerOf(each).orElse(null),
            here.silent(each) ? "silent" : "here", each.since(), each.state().map(told ->
            told.computer().disks().size()).orElse(0), each.machine().network().map(Network::upBytes).orElse(null),
            each.machine().network().map(Network::downBytes).orElse(null))).toList();
    }

    /** @param destinationId where it is put, under its own name */
    record ArchiveTo(@NotBlank String destinationId) {
    }

    /** Puts the agent onto a drive, to be carried to a computer. */
    @PostMapping("/archive")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void put(@Valid @RequestBody ArchiveTo to, Principal who) throws IOException {
        Path file = archive.file().orElseThrow(() -> new Refused(HttpStatus.CONFLICT, "no-agent", "",
            "This Granary was started without an agent to give. Make one with ./granary agent-archive."));
        try (InputStream in = Files.newInputStream(file)) {
            store.putFile(to.destinationId(), "", AgentArchive.NAME, in);
        }
        journal.add(who.getName(), "put agent", to.destinationId(), Journal.Result.NOTE,
            who.getName() + " put the agent onto a drive; its SHA-256 begins with " + archive.digits() + ".");
    }

    @DeleteMapping("/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void sendAway(@PathVariable UUID id, Principal who) throws IOException {
        agents.sendAway(id, who.getName());
    }
}
