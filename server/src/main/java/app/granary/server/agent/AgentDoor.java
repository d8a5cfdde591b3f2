package app.granary.server.agent;

import app.granary.core.agent.Protocol;
import app.granary.server.office.OfficeChoices;
import app.granary.server.problem.Refused;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.UUID;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.core.io.FileSystemResource;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Where a computer with a code comes in. */
@RestController
@ConditionalOnProperty("granary.listen")
@RequestMapping("/agents")
class AgentDoor {
    /** A computer started from rescue media may have lost its clock; what it does is dated by the office. Years off, its journal is odd. */
    private static final Duration CLOCK_OFF = Duration.ofDays(365);

    private final AgentArchive archive;
    private final JoinCodes codes;
    private final Agents agents;
    private final OfficeChoices choices;
    private final Clock clock;

    AgentDoor(AgentArchive archive, JoinCodes codes, Agents agents, OfficeChoices choices, Clock clock) {
        this.archive = archive;
        this.codes = codes;
        this.agents = agents;
        this.choices = choices;
        this.clock = clock;
    }

    /**
     * @param protocol what it speaks, {@link Protocol#VERSION}
     * @param secret   the secret part of its code
     * @param name     as it calls itself
     * @param clock    what its clock shows
     */
    record Knock(int protocol, @NotNull @Size(max = 32) String secret,
        @NotBlank @Size(max = 100) @Pattern(regexp = "[^\\p{Cntrl}]*") String name, @NotNull Instant clock) {
    }

    /**
     * @param clockOffSeconds by how much the computer's clock is ahead of the office's; less than 0 when it is behind
     */
    record Admitted(UUID id, String token, String office, long clockOffSeconds) {
    }

    /** The agent, for whoever has none yet; it is no secret. */
    @GetMapping("/" + AgentArchive.NAME)
    ResponseEntity<FileSystemResource> archive() {
        return archive.file().map(file -> ResponseEntity.ok().contentType(MediaType.APPLICATION_OCTET_STREAM)
            .body(new FileSystemResource(file))).orElseGet(() -> ResponseEntity.notFound().build());
    }

    @PostMapping("/join")
    @ResponseStatus(HttpStatus.CREATED)
    Admitted join(@Valid @RequestBody Knock knock, HttpServletRequest request) {
        if (knock.protocol != Protocol.VERSION) {
            throw new Refused(HttpStatus.CONFLICT, "other-version", "protocol", Protocol.otherVersion(knock.protocol));
        }
        long off = Duration.between(clock.instant(), knock.clock).toSeconds();
        if (Math.abs(off) > CLOCK_OFF.toSeconds()) {
            throw new Refused(HttpStatus.CONFLICT, "clock-off", "clock", "The clock of this computer shows "
                + knock.clock.toString().substring(0, 10)
                + ", and the office's " + clock.instant().toString().substring(0, 10) + ". Set it right, then join again.");
        }
        String by = codes.madeBy(knock.secret).orElse("");
        return switch (codes.take(knock.secret, request.getRemoteAddr())) {
            case TAKEN -> {
                Agents.Joined joined = agents.join(knock.name.strip(), by);
                yield new Admitted(joined.agent().id(), joined.token(), choices.choices().name(), off);
            }
            case USED_OR_EXPIRED -> throw new Refused(HttpStatus.FORBIDDEN, "code-used", "secret",
                "That code was used already, or its quarter of an hour is over. Make a new one on the Computers page.");
            case UNKNOWN -> throw new Refused(HttpStatus.FORBIDDEN, "code-unknown", "secret",
                "This office does not know that code. Make a new one on the Computers page.");
            case TOO_MANY -> throw new Refused(HttpStatus.TOO_MANY_REQUESTS, "too-many-codes", "secret",
                "Too many wrong codes were tried from this computer's address. None is taken from it for a quarter of an hour.");
        };
    }
}
