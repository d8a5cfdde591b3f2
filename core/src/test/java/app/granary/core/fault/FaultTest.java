package app.granary.core.fault;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.proof.CheckDepth;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import java.util.List;
import org.junit.jupiter.api.Test;

class FaultTest {
    @Test
    void aFaultTravelsWholeInItsException() {
        Fault fault = Fault.damaged("disk", 512, "A", "B", "disk: A was B.");
        assertEquals(fault, fault.asException().fault());
        assertEquals("disk: A was B.", fault.asException().getMessage());
        assertEquals(512, fault.offsetBytes().orElseThrow());
        assertTrue(Fault.of(Fault.Kind.NO_ROOM, "", "Full.").offsetBytes().isEmpty());
        assertEquals("no-room", Fault.Kind.NO_ROOM.word());
        assertThrows(NullPointerException.class, () -> Fault.of(null, "", ""));
    }

    @Test
    void depthsIncludeTheOnesBelow() {
        assertTrue(CheckDepth.FRAMES.includes(CheckDepth.PRESENCE));
        assertTrue(CheckDepth.DIGESTS.includes(CheckDepth.DIGESTS));
        assertEquals(false, CheckDepth.PRESENCE.includes(CheckDepth.DIGESTS));
        assertEquals("frames", CheckDepth.FRAMES.word());
    }

    @Test
    void anOutcomeIsSoundWithoutProblems() {
        assertTrue(new CheckOutcome(CheckDepth.FRAMES, List.of(), 5).ok());
        assertEquals(false, new CheckOutcome(CheckDepth.FRAMES, List.of(new Problem("p", 0, 0, "", "gone")), 5).ok());
    }
}
