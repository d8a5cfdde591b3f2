package app.granary.server.agent;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import org.junit.jupiter.api.Test;

class JoinCodesTest {
    private static final byte[] OFFICE = new byte[32];

    private Instant now = Instant.parse("2026-11-24T17:00:00Z");
    private final JoinCodes codes = new JoinCodes(new Clock() {
        @Override
        public ZoneId getZone() {
            return ZoneOffset.UTC;
        }

        @Override
        public Clock withZone(ZoneId zone) {
            return this;
        }

        @Override
        public Instant instant() {
            return now;
        }
    });

    private String made() {
        return codes.make(OFFICE, "ada").code().secret();
    }

    @Test
    void aCodeIsGoodOnceAndForAQuarterOfAnHour() {
        String one = made();
        String other = made();
        assertEquals(JoinCodes.Answer.TAKEN, codes.take(one, "10.0.0.7"));
        assertEquals(JoinCodes.Answer.USED_OR_EXPIRED, codes.take(one, "10.0.0.7"));
        now = now.plus(JoinCodes.STANDS);
        assertEquals(JoinCodes.Answer.USED_OR_EXPIRED, codes.take(other, "10.0.0.7"));
        assertEquals(JoinCodes.Answer.UNKNOWN, codes.take("0000000000", "10.0.0.7"));
    }

    /** Twenty guesses from anywhere kept every computer of the office out for a quarter of an hour. */
    @Test
    void whoGuessesIsKeptOutAndNobodyElse() {
        String code = made();
        for (int i = 0; i < 500; i++) {
            codes.take("wrong" + i, "10.0.0.66");
        }
        String theirs = made();
        assertEquals(JoinCodes.Answer.TOO_MANY, codes.take(theirs, "10.0.0.66"), "a right one neither, from there");
        assertEquals(JoinCodes.Answer.TAKEN, codes.take(code, "10.0.0.7"));
        for (int i = 0; i < JoinCodes.MOST_WRONG_IN_ALL; i++) {
            codes.take("wrong" + i, "10.0.1." + i / 5);
        }
        String late = made();
        assertEquals(JoinCodes.Answer.TOO_MANY, codes.take(late, "10.0.0.7"), "nor from anywhere after a thousand");
        now = now.plus(JoinCodes.STANDS).plus(Duration.ofSeconds(1));
        assertEquals(JoinCodes.Answer.TAKEN, codes.take(made(), "10.0.0.66"));
    }
}
