package app.granary.core.fault;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.proof.ProofLevel;
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
    void levelsIncludeTheOnesBelow() {
        assertTrue(ProofLevel.READABLE.includes(ProofLevel.COMPLETE));
        assertTrue(ProofLevel.SOUND.includes(ProofLevel.SOUND));
        assertEquals(false, ProofLevel.COMPLETE.includes(ProofLevel.SOUND));
        assertEquals("readable", ProofLevel.READABLE.word());
    }

    @Test
    void anOutcomeIsSoundWithoutProblems() {
        assertTrue(new CheckOutcome(ProofLevel.READABLE, List.of(), 5).ok());
        assertEquals(false, new CheckOutcome(ProofLevel.READABLE, List.of(new Problem("p", 0, 0, "", "gone")), 5).ok());
    }
}
