package app.granary.server.problem;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import com.fasterxml.jackson.databind.ObjectMapper;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URI;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.validation.FieldError;
import org.springframework.web.bind.MethodArgumentNotValidException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;

/** Turns refusals and faults into problem details (RFC 9457): a stable {@code type}, a sentence that says what to do, the field where there is one. */
@RestControllerAdvice
@Order(Ordered.HIGHEST_PRECEDENCE)
public class Problems {
    private static final Logger LOG = LoggerFactory.getLogger(Problems.class);

    private final ObjectMapper json;

    Problems(ObjectMapper json) {
        this.json = json;
    }

    private static ProblemDetail problem(HttpStatus status, String type, String sentence) {
        ProblemDetail problem = ProblemDetail.forStatusAndDetail(status, sentence);
        problem.setType(URI.create("urn:granary:problem:" + type));
        problem.setTitle(type.replace('-', ' '));
        return problem;
    }

    /** For filters, which run before any controller. */
    public void write(HttpServletResponse response, HttpStatus status, String type, String sentence) throws IOException {
        response.setStatus(status.value());
        response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
        response.setCharacterEncoding("UTF-8");
        json.writeValue(response.getWriter(), problem(status, type, sentence));
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> refused(Refused refused) {
        ProblemDetail problem = problem(refused.status(), refused.type(), refused.getMessage());
        if (!refused.field().isEmpty()) {
            problem.setProperty("field", refused.field());
        }
        return ResponseEntity.status(refused.status()).body(problem);
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> fault(FaultException exception) {
        Fault fault = exception.fault();
        HttpStatus status = switch (fault.kind()) {
            case BAD_CHOICE -> HttpStatus.BAD_REQUEST;
            case NOT_RECOGNISED -> HttpStatus.NOT_FOUND;
            case NO_ROOM, FORBIDDEN, STOPPED -> HttpStatus.CONFLICT;
            case DAMAGED, UNSUPPORTED, LOCKED -> HttpStatus.UNPROCESSABLE_ENTITY;
            case DEVICE_FAILED -> HttpStatus.SERVICE_UNAVAILABLE;
        };
        ProblemDetail problem = problem(status, fault.kind().word(), fault.sentence());
        fault.offsetBytes().ifPresent(offset -> problem.setProperty("offsetBytes", offset));
        if (!fault.device().isEmpty()) {
            problem.setProperty("device", fault.device());
        }
        return ResponseEntity.status(status).body(problem);
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> invalid(MethodArgumentNotValidException invalid) {
        FieldError first = invalid.getBindingResult().getFieldErrors().isEmpty() ? null : invalid.getBindingResult().getFieldErrors().get(0);
        ProblemDetail problem = problem(HttpStatus.BAD_REQUEST, "bad-choice", first == null ? "Something in the form cannot be used."
            : "\"" + first.getField() + "\" " + first.getDefaultMessage() + ". Correct it and try again.");
        if (first != null) {
            problem.setProperty("field", first.getField());
        }
        return ResponseEntity.badRequest().body(problem);
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> device(IOException failure) {
        LOG.warn("a device failed", failure);
        return ResponseEntity.status(HttpStatus.SERVICE_UNAVAILABLE).body(problem(HttpStatus.SERVICE_UNAVAILABLE, "device-failed",
            "A device did not answer as it should. Nothing was changed; check that it is attached and try again."));
    }
}
