package app.granary.engine.line;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Duration;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** What is asked for while the line is gone waits for it for a while, as work under way does for as long as it takes. */
@Tag("large")
class LostLineTest extends OverTheLine {
    private CompletableFuture<Boolean> ordered(Watch watch) {
        return CompletableFuture.supplyAsync(() -> {
            try {
                return office.imaging().capture(disk, drive, "own", USUAL, watch).check().ok();
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
        });
    }

    @Test
    void anOrderGivenWhileTheCableIsOutIsCarriedOutWhenItIsBack() throws Exception {
        wire.pull();
        CompletableFuture<Boolean> made = ordered(Watch.NONE);
        Tools.run(folder, "sleep 0.7");
        assertFalse(made.isDone(), "it waits");
        wire.plug();
        assertTrue(made.get(60, TimeUnit.SECONDS));
    }

    @Test
    void whoIsGoneForLongerIsSaidToBe() throws IOException {
        LineHost hasty = new LineHost("a1", "TARN", Duration.ofMillis(300));
        wire.to(hasty);
        for (int i = 0; i < 100 && !hasty.here(); i++) {
            Tools.run(folder, "sleep 0.05");
        }
        wire.pull();
        FaultException refused = assertThrows(FaultException.class,
            () -> hasty.imaging().capture(disk, drive, "own", USUAL, Watch.NONE));
        assertEquals(Fault.Kind.DEVICE_FAILED, refused.fault().kind());
        assertTrue(refused.getMessage().contains("cannot be reached now"), refused.getMessage());
    }

    /** It said that what was begun lay there, of which there was nothing. */
    @Test
    void whoIsSentAwayWhileAnOrderWaitsBeganNothing() throws Exception {
        wire.pull();
        CompletableFuture<Boolean> made = ordered(Watch.NONE);
        Tools.run(folder, "sleep 0.5");
        office.end();
        Throwable ended = assertThrows(java.util.concurrent.ExecutionException.class, () -> made.get(5, TimeUnit.SECONDS)).getCause();
        assertEquals("TARN was sent away. Nothing was begun there; let it join again first.",
            ((FaultException) ended.getCause()).fault().sentence());
    }

    @Test
    void whatIsStoppedWhileItWaitsIsNotBegun() throws Exception {
        AtomicBoolean stop = new AtomicBoolean();
        wire.pull();
        CompletableFuture<Boolean> made = ordered(new Watch() {
            @Override
            public void advanced(Progress now) {
            }

            @Override
            public boolean stopRequested() {
                return stop.get();
            }
        });
        Tools.run(folder, "sleep 0.5");
        stop.set(true);
        Throwable ended = assertThrows(java.util.concurrent.ExecutionException.class, () -> made.get(5, TimeUnit.SECONDS)).getCause();
        assertEquals(Fault.Kind.STOPPED, ((FaultException) ended.getCause()).fault().kind());
        wire.plug();
        Tools.run(folder, "sleep 0.5");
        assertEquals("", Tools.run(folder, "ls TRIPOD/granary-images 2> /dev/null || true"), "nothing was made of it");
    }
}
