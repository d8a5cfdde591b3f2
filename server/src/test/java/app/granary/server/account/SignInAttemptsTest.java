package app.granary.server.account;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
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

    private int guesses(String name, String address, Duration within) {
        int taken = 0;
        for (Instant end = now.plus(within); now.isBefore(end); now = now.plusSeconds(1)) {
            taken += attempts.begin(name, address).isZero() ? 1 : 0;
        }
        return taken;
    }

    /** Failures were counted after the password had been looked at: a hundred side by side were all looked at. */
    @Test
    void guessesSideBySideAreCountedBeforeTheyAreLookedAt() throws Exception {
        ExecutorService threads = Executors.newFixedThreadPool(8);
        try {
            List<Callable<Boolean>> all = IntStream.range(0, 100)
                .mapToObj(i -> (Callable<Boolean>) () -> attempts.begin("ada", "10.0.0.1").isZero()).toList();
            long taken = 0;
            for (var each : threads.invokeAll(all)) {
                taken += each.get() ? 1 : 0;
            }
            assertEquals(SignInAttempts.FREE, taken);
        } finally {
            threads.shutdownNow();
        }
    }

    @Test
    void guessingIsSlowedByNameAndAddressAndNobodyIsLockedOut() {
        assertTrue(attempts.begin("ada", "10.0.0.7").isZero());
        attempts.succeeded("ada", "10.0.0.7");
        int one = guesses("ada", "10.0.0.1", Duration.ofHours(1));
        assertTrue(one >= 60 && one <= 75, one + " an hour of one name at one address");
        int names = 0;
        for (int i = 0; i < 3600; i++, now = now.plusSeconds(1)) {
            names += attempts.begin("name" + i, "10.0.0.2").isZero() ? 1 : 0;
        }
        assertTrue(names <= 95, names + " an hour from one address, whatever the names");
        int addresses = 0;
        for (int i = 0; i < 3600; i++, now = now.plusSeconds(1)) {
            addresses += attempts.begin("ada", "10.1." + i / 250 + "." + i % 250).isZero() ? 1 : 0;
        }
        assertTrue(addresses <= 750, addresses + " an hour of one name from everywhere");
        assertTrue(attempts.begin("ada", "10.0.0.7").isZero(), "where ada signed in before, nothing of it is felt");
        assertTrue(attempts.begin("ada", "10.0.0.9").toSeconds() <= 5, "elsewhere ada waits some seconds");
    }

    @Test
    void aSuccessForgetsAndStrangersCannotFillTheMemory() {
        for (int i = 0; i < SignInAttempts.FREE; i++) {
            assertTrue(attempts.begin("ada", "10.0.0.1").isZero());
        }
        assertTrue(!attempts.begin("ada", "10.0.0.1").isZero());
        attempts.succeeded("ada", "10.0.0.1");
        assertTrue(attempts.begin("ada", "10.0.0.1").isZero());
        for (int i = 0; i < 50_000; i++) {
            attempts.begin("name" + i, "10.2." + i / 250 + "." + i % 250);
        }
        assertTrue(attempts.begin("grace", "10.0.0.3").isZero());
        now = now.plus(Duration.ofMinutes(16));
        assertTrue(attempts.begin("name1", "10.2.0.1").isZero());
    }
}
