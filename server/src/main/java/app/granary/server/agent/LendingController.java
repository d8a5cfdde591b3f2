package app.granary.server.agent;

import app.granary.core.fault.Fault;
import app.granary.engine.line.Lent;
import app.granary.engine.line.LineJson;
import app.granary.engine.line.Message;
import app.granary.engine.remote.NotNow;
import app.granary.engine.remote.RemoteFiles;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The bytes of what is lent to a computer that joined. What cannot be done is answered by a message and 409. */
@RestController
@ConditionalOnProperty("granary.listen")
@RequestMapping(AgentPort.PATH + "files/{token}")
class LendingController {
    private final AgentsHere agents;
    private final Lendings lendings;

    LendingController(AgentsHere agents, Lendings lendings) {
        this.agents = agents;
        this.lendings = lendings;
    }

    /** Whoever asks is not known, or nothing is lent to it by that name any more. */
    static final class NotLent extends RuntimeException {
        private static final long serialVersionUID = 1L;
    }

    private Lent lent(HttpServletRequest request, String token) {
        Agent agent = agents.shownBy(request.getHeader("Authorization")).orElseThrow(NotLent::new);
        agents.heard(agent);
        return lendings.of(token, agent.id()).orElseThrow(NotLent::new);
    }

    @GetMapping(path = "/bytes", produces = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    byte[] read(@PathVariable String token, @RequestParam String path, @RequestParam long at, @RequestParam int most,
        HttpServletRequest request) throws IOException {
        return lent(request, token).files().read(path, at, most);
    }

    /** Answered when the bytes are written; on the device they are after a force. */
    @PutMapping("/bytes")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void write(@PathVariable String token, @RequestParam String path, @RequestParam long at, HttpServletRequest request)
        throws IOException {
        Lent lent = lent(request, token);
        int length = request.getContentLength();
        if (length < 0 || length > RemoteFiles.MOST) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, path, "Nobody writes " + length + " bytes at once.").asException();
        }
        byte[] bytes = new byte[length];
        int got = request.getInputStream().readNBytes(bytes, 0, length); // into one array: a third of the work of receiving is copying
        if (got != length) {
            throw new IOException("the bytes ended after " + got + " of " + length);
        }
        lent.files().write(path, at, bytes);
    }

    /** A call, by a key of its own; its progress and its end come as lines. */
    @PostMapping("/calls")
    void call(@PathVariable String token, @RequestBody String text, HttpServletRequest request, HttpServletResponse response)
        throws IOException {
        Lent lent = lent(request, token);
        if (!(LineJson.message(text) instanceof Message.Ask ask)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, "call", "That is no call.").asException();
        }
        response.setContentType("application/x-ndjson");
        OutputStream out = response.getOutputStream();
        lent.answer(ask, message -> {
            out.write((LineJson.text(message) + "\n").getBytes(StandardCharsets.UTF_8));
            out.flush();
        });
    }

    /** A person, or the work's own end, stops what takes long. */
    @PostMapping("/stop")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void stop(@PathVariable String token, @RequestParam java.util.UUID key, HttpServletRequest request) {
        lent(request, token).stop(key);
    }

    @ExceptionHandler(NotLent.class)
    ResponseEntity<String> notLent() {
        return ResponseEntity.status(HttpStatus.NOT_FOUND).contentType(MediaType.TEXT_PLAIN).body("not lent");
    }

    /** The computer that has the drive is away; whoever asks tries again. */
    @ExceptionHandler(NotNow.class)
    ResponseEntity<String> notNow() {
        return ResponseEntity.status(HttpStatus.SERVICE_UNAVAILABLE).contentType(MediaType.TEXT_PLAIN).body("not now");
    }

    @ExceptionHandler(IOException.class)
    ResponseEntity<String> notDone(IOException why, HttpServletResponse response) throws IOException {
        if (response.isCommitted()) {
            throw why; // the connection is cut, which the other side takes for no answer
        }
        return ResponseEntity.status(HttpStatus.CONFLICT).contentType(MediaType.APPLICATION_JSON).body(LineJson.text(Lent.ended(why)));
    }
}
