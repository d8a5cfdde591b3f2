package app.granary.server.problem;

import static org.junit.jupiter.api.Assertions.assertEquals;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import com.fasterxml.jackson.databind.ObjectMapper;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.mock.web.MockHttpServletResponse;

/** RFC 9457: a stable type, a sentence, and the fault's own fields beside it. */
class ProblemsTest {
    private final Problems problems = new Problems(new ObjectMapper());

    @ParameterizedTest
    @CsvSource({"BAD_CHOICE, 400", "NOT_RECOGNISED, 404", "NO_ROOM, 409", "FORBIDDEN, 409", "STOPPED, 409", "DAMAGED, 422",
        "UNSUPPORTED, 422", "DEVICE_FAILED, 503"})
    void everyKindOfFaultHasItsStatusAndType(Fault.Kind kind, int status) {
        ResponseEntity<ProblemDetail> answer = problems.fault((FaultException) Fault.of(kind, "PEG-1", "What happened.").asException());
        assertEquals(status, answer.getStatusCode().value());
        assertEquals("urn:granary:problem:" + kind.word(), answer.getBody().getType().toString());
        assertEquals("What happened.", answer.getBody().getDetail());
        assertEquals("PEG-1", answer.getBody().getProperties().get("device"));
    }

    @Test
    void damageCarriesItsOffsetAndFiltersAnswerAlike() throws Exception {
        assertEquals(512L,
            problems.fault(Fault.damaged("d", 512, "A", "B", "Broken.").asException()).getBody().getProperties().get("offsetBytes"));
        MockHttpServletResponse response = new MockHttpServletResponse();
        problems.write(response, org.springframework.http.HttpStatus.UNAUTHORIZED, "not-signed-in", "Sign in first.");
        assertEquals("application/problem+json;charset=UTF-8", response.getContentType());
        assertEquals("Sign in first.", new ObjectMapper().readTree(response.getContentAsString()).get("detail").asText());
    }
}
