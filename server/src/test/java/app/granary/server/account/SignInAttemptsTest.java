package app.granary.server.account;

import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class SignInAttemptsTest {
    private final Clock clock = mock(Clock.class);
    private final SignInAttempts attempts = new SignInAttempts(clock);
    private Instant now = Instant.parse("2026-11-24T08:00:00Z");

    @BeforeEach
    void time() {
        when(clock.instant()).thenAnswer(call -> now);
    }

    @Test
    void fiveWithinFiveMinutesAreTheLimit() {
        for (int i = 0; i < SignInAttempts.LIMIT; i++) {
            assertFalse(attempts.tooMany("ada"));
            attempts.failed("ada");
            now = now.plusSeconds(30);
        }
        assertTrue(attempts.tooMany("ada"));
        assertFalse(attempts.tooMany("grace"));
        now = now.plus(Duration.ofMinutes(3));
        assertFalse(attempts.tooMany("ada"), "the oldest has aged");
    }

    @Test
    void aSuccessForgetsAndStrangersCannotFillTheMemory() {
        for (int i = 0; i < SignInAttempts.LIMIT; i++) {
            attempts.failed("ada");
        }
        attempts.succeeded("ada");
        assertFalse(attempts.tooMany("ada"));
        for (int i = 0; i < SignInAttempts.LIMIT; i++) {
            attempts.failed("first");
        }
        for (int i = 0; i < 10_000; i++) {
            attempts.failed("name" + i);
        }
        assertFalse(attempts.tooMany("first"), "ten thousand names later it is forgotten");
    }
}
