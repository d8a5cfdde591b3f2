package app.granary.server.agent;

import app.granary.engine.remote.RemoteFiles;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.util.Random;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Takes bytes and gives bytes, so that a computer that joined finds out how fast the network between carries them. Nothing is kept. */
@RestController
@ConditionalOnProperty("granary.listen")
@RequestMapping(AgentPort.PATH + "network")
class NetworkController {
    /** The same for everybody, and not to be shortened by what lies between: made once, from a fixed seed. */
    private static final byte[] NOISE = new byte[RemoteFiles.MOST_MEASURED];

    static {
        new Random(1).nextBytes(NOISE);
    }

    private final AgentsHere agents;

    NetworkController(AgentsHere agents) {
        this.agents = agents;
    }

    private boolean known(HttpServletRequest request) {
        return agents.shownBy(request.getHeader("Authorization")).isPresent();
    }

    @PutMapping
    ResponseEntity<Void> take(HttpServletRequest request) throws IOException {
        if (!known(request)) {
            return ResponseEntity.status(HttpStatus.UNAUTHORIZED).build();
        }
        request.getInputStream().skipNBytes(Math.max(0, request.getContentLength()));
        return ResponseEntity.noContent().build();
    }

    /** @param bytes from 1 to 4 MiB */
    @GetMapping(produces = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    ResponseEntity<byte[]> give(@RequestParam int bytes, HttpServletRequest request) {
        if (!known(request)) {
            return ResponseEntity.status(HttpStatus.UNAUTHORIZED).build();
        }
        return bytes < 1 || bytes > RemoteFiles.MOST_MEASURED ? ResponseEntity.badRequest().build()
            : ResponseEntity.ok(bytes == NOISE.length ? NOISE : java.util.Arrays.copyOf(NOISE, bytes));
    }
}
