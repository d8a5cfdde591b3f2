package app.granary.server.rescue;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.when;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.image.BadStretch;
import app.granary.engine.copy.StickImage;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.Overwriting;
import app.granary.server.claim.OfficeClaims;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.Took;
import app.granary.server.target.Targets;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What the register says of a stick whose writing broke off, also when Granary itself did. */
class StickWorkTest {
    private static final UUID RUN = new UUID(0, 7);
    private static final StickOrder ORDER = new StickOrder("rescue.iso", "here", List.of(),
        new Overwriting.Confirmed("t", new DiskIdentity("m", "S-1", 9), List.of()), "KEY-A", null);

    private final Overwriting overwriting = mock(Overwriting.class);
    private final Targets targets = mock(Targets.class);
    private final RescueStickRepository sticks = mock(RescueStickRepository.class);
    private final Run run = mock(Run.class);
    private final LiveRun running = mock(LiveRun.class);
    private final RescueStick stick = new RescueStick("KEY-A", "stick", "m", "S-1", 9, "what was on it", List.of("BIOS"), "", false,
        Instant.EPOCH);

    @BeforeEach
    void aStickToBeWritten() {
        stick.writing(RUN, "rescue", List.of("UEFI"));
        when(sticks.findByPendingRun(RUN)).thenReturn(Optional.of(stick));
        when(running.run()).thenReturn(run);
        when(run.id()).thenReturn(RUN);
        when(run.state()).thenReturn(Run.State.FAILED);
    }

    /** As Granary's next process has it: nothing of the one before is in memory. */
    private StickWork work() {
        return new StickWork(overwriting, mock(OfficeClaims.class), targets, sticks);
    }

    @Test
    void whatIsOnAStickIsUnknownOnceItWasTouchedAlsoAfterAKill() throws IOException {
        when(overwriting.writeRaw(any(), any(), any())).thenThrow(new OutOfMemoryError("killed"));
        Assertions.assertThrows(OutOfMemoryError.class, () -> work().perform(running, ORDER, Passphrase.NONE));
        work().ended(run, Took.NOTHING);
        assertEquals("", stick.contents());
        assertEquals(2, stick.writes());
        assertEquals(1, stick.errors());
        assertEquals(null, stick.pendingRun());
    }

    @Test
    void aStickThatWasNotTouchedHoldsWhatItHeld() throws IOException {
        doThrow(Fault.of(Fault.Kind.FORBIDDEN, "KEY-A", "It is mounted.").asException()).when(targets).requireStillFree(any(), any());
        Assertions.assertThrows(FaultException.class, () -> work().perform(running, ORDER, Passphrase.NONE));
        work().ended(run, Took.NOTHING);
        assertEquals("what was on it", stick.contents());
        assertEquals(1, stick.writes());
    }

    /** A kept image that rotted is not written onto a second stick. */
    @Test
    void anImageThatIsNotWhatWasKeptIsNotWritten() throws IOException {
        StickOrder copy = new StickOrder("KEY-A.img", "here", List.of(), ORDER.target(), "KEY-B", "ab".repeat(32));
        when(overwriting.digestRaw("KEY-A.img", running)).thenReturn("cd".repeat(32));
        assertTrue(Assertions.assertThrows(FaultException.class, () -> work().perform(running, copy, Passphrase.NONE)).getMessage()
            .contains("Nothing was written"));
        verify(overwriting, never()).writeRaw(any(), any(), any());
        work().ended(run, Took.NOTHING);
        assertEquals("what was on it", stick.contents());
    }

    /** Every reading that fails somewhere counts against the stick, and no half of it is kept. */
    @Test
    void whatCannotBeReadIsCountedAndNothingIsKept() throws IOException {
        KeepOrder keep = new KeepOrder("KEY-A.img", "t", ORDER.target().identity(), "KEY-A", stick.id());
        KeepWork work = new KeepWork(overwriting, sticks, Clock.systemUTC());
        when(sticks.findById(stick.id())).thenReturn(Optional.of(stick));
        when(overwriting.keepRaw("t", ORDER.target().identity(), "KEY-A.img", running))
            .thenReturn(new StickImage(9, "ab", List.of(new BadStretch(0, 512), new BadStretch(4096, 512))));
        assertTrue(Assertions.assertThrows(FaultException.class, () -> work.perform(running, keep, Passphrase.NONE)).getMessage()
            .contains("1.02 kB of KEY-A cannot be read, in 2 places"));
        assertEquals("2 ", stick.errors() + " " + stick.imageFile());
    }
}
