package app.granary.server.problem;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import com.fasterxml.jackson.databind.JsonMappingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.InterruptedIOException;
import java.net.SocketTimeoutException;
import java.net.URI;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.dao.ConcurrencyFailureException;
import org.springframework.dao.DataAccessException;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.transaction.TransactionException;
import org.springframework.validation.FieldError;
import org.springframework.web.ErrorResponse;
import org.springframework.web.bind.MethodArgumentNotValidException;
import org.springframework.web.bind.MissingServletRequestParameterException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.async.AsyncRequestNotUsableException;
import org.springframework.web.method.annotation.HandlerMethodValidationException;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;

/**
 * Turns refusals and faults into problem details (RFC 9457): a stable {@code type}, a sentence that says what to do, the field where there
 * is one.
 */
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
        FieldError first = invalid.getBindingResult().getFieldErrors().isEmpty() ? null
            : invalid.getBindingResult().getFieldErrors().get(0);
        ProblemDetail problem = problem(HttpStatus.BAD_REQUEST, "bad-choice", first == null ? "Something in the form cannot be used."
            : "\"" + first.getField() + "\" " + first.getDefaultMessage() + ". Correct it and try again.");
        if (first != null) {
            problem.setProperty("field", first.getField());
        }
        return ResponseEntity.badRequest().body(problem);
    }

    private static ResponseEntity<ProblemDetail> answer(HttpStatus status, String type, String sentence, String field) {
        ProblemDetail problem = problem(status, type, sentence);
        if (!field.isEmpty()) {
            problem.setProperty("field", field);
        }
        return ResponseEntity.status(status).body(problem);
    }

    /** Never with what was sent: there may be a passphrase in it. */
    @ExceptionHandler
    ResponseEntity<ProblemDetail> notReadable(HttpMessageNotReadableException odd) {
        String field = odd.getCause() instanceof JsonMappingException mapping ? mapping.getPath().stream()
            .map(each -> each.getFieldName() == null ? "" + each.getIndex() : each.getFieldName()).collect(Collectors.joining(".")) : "";
        if (odd.getRootCause() instanceof BodyTooLong more) {
            return tooLong(more);
        }
        if (odd.getRootCause() instanceof InterruptedIOException slow) {
            return tooSlow(slow);
        }
        return answer(HttpStatus.BAD_REQUEST, "bad-choice",
            field.isEmpty() ? "What was sent is not what is expected here. Load the page again, and try once more."
                : "\"" + field + "\" is not what is expected there. Correct it and try again.",
            field);
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> invalid(HandlerMethodValidationException invalid) {
        String field = invalid.getParameterValidationResults().isEmpty() ? ""
            : String.valueOf(invalid.getParameterValidationResults().get(0).getMethodParameter().getParameterName());
        String why = invalid.getAllErrors().isEmpty() ? "cannot be used" : invalid.getAllErrors().get(0).getDefaultMessage();
        return answer(HttpStatus.BAD_REQUEST, "bad-choice", "\"" + field + "\" " + why + ". Correct it and try again.", field);
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> mismatch(MethodArgumentTypeMismatchException odd) {
        return answer(HttpStatus.BAD_REQUEST, "bad-choice",
            "\"" + odd.getName() + "\" is not of the kind that is expected there. Correct it and try again.", odd.getName());
    }

    /** What the web framework refuses by itself: a path nobody serves, a method, a type, a parameter that is missing. */
    @ExceptionHandler
    ResponseEntity<ProblemDetail> framework(ServletException refused) {
        if (!(refused instanceof ErrorResponse response)) {
            return internal(refused);
        }
        HttpStatus status = HttpStatus.valueOf(response.getStatusCode().value());
        String sentence = switch (status) {
            case NOT_FOUND -> "There is nothing under that address. Go back to the list.";
            case METHOD_NOT_ALLOWED -> "That cannot be done under this address. Load the page again.";
            case UNSUPPORTED_MEDIA_TYPE, NOT_ACCEPTABLE -> "That is not of a type that is understood here. Send JSON.";
            default -> refused instanceof MissingServletRequestParameterException missing
                ? "\"" + missing.getParameterName() + "\" is missing. Add it and try again."
                : "Something that is needed here is missing. Load the page again, and try once more.";
        };
        return ResponseEntity.status(status).headers(response.getHeaders())
            .body(problem(status, status == HttpStatus.NOT_FOUND ? "not-found" : "bad-choice", sentence));
    }

    /** A text longer than its column, a key that is there already: what was sent cannot be kept. */
    @ExceptionHandler
    ResponseEntity<ProblemDetail> notKept(DataIntegrityViolationException refused) {
        LOG.info("not kept: {}", firstLine(refused.getMostSpecificCause()));
        return answer(HttpStatus.CONFLICT, "not-kept",
            "That cannot be kept as it is: something in it is too long, or there already. Nothing was changed.", "");
    }

    /** Two at once: the one that came second is told to look again. */
    @ExceptionHandler
    ResponseEntity<ProblemDetail> twoAtOnce(ConcurrencyFailureException second) {
        return answer(HttpStatus.CONFLICT, "changed-meanwhile",
            "Someone else changed this at the same moment. Load the page again, then make your change once more.", "");
    }

    /** The database has no room, or was closed by what it met: the truth, and nothing of rights. */
    @ExceptionHandler
    ResponseEntity<ProblemDetail> database(DataAccessException failed) {
        LOG.error("the database failed: {}", firstLine(failed.getMostSpecificCause()));
        return answer(HttpStatus.SERVICE_UNAVAILABLE, "database-failed",
            "Granary's own database could not do that just now, and nothing was changed. If it stays so, look whether the drive Granary "
                + "keeps its data "
                + "on is full.",
            "");
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> database(TransactionException failed) {
        LOG.error("the database failed: {}", firstLine(failed.getMostSpecificCause()));
        return answer(HttpStatus.SERVICE_UNAVAILABLE, "database-failed",
            "Granary's own database could not do that just now. If it stays so, look whether the drive Granary keeps its data on is full.",
            "");
    }

    /** A browser that went away before it had its answer is no failure of a device. */
    @ExceptionHandler
    void gone(AsyncRequestNotUsableException gone) {
        LOG.debug("gone", gone);
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> tooLong(BodyTooLong more) {
        return answer(HttpStatus.PAYLOAD_TOO_LARGE, "too-long", "That is more than Granary takes at once here. Send less.", "");
    }

    @ExceptionHandler({InterruptedIOException.class, SocketTimeoutException.class})
    ResponseEntity<ProblemDetail> tooSlow(IOException slow) {
        return answer(HttpStatus.REQUEST_TIMEOUT, "too-slow",
            "What was sent came too slowly, and was not waited for. Nothing was changed; try again.", "");
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> device(IOException failure) {
        LOG.warn("a device failed: {}", firstLine(failure));
        return answer(HttpStatus.SERVICE_UNAVAILABLE, "device-failed",
            "A device did not answer as it should. Nothing was changed; check that it is attached and try again.", "");
    }

    /** A fault of Granary's own says so, with a number to find it by in the log. */
    @ExceptionHandler
    ResponseEntity<ProblemDetail> internal(Exception fault) {
        String number = Long.toHexString(System.nanoTime() & 0xFFFFFFFFL);
        LOG.error("fault {}", number, fault);
        return answer(HttpStatus.INTERNAL_SERVER_ERROR, "fault",
            "Granary failed at this by a fault of its own. Look whether it was done before you try again; the log tells more, under fault "
                + number + ".",
            "");
    }

    private static String firstLine(Throwable failed) {
        return String.valueOf(failed.getMessage()).lines().findFirst().orElse(failed.getClass().getSimpleName());
    }
}
