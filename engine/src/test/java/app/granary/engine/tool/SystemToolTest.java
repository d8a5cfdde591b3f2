package app.granary.engine.tool;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;

class SystemToolTest {
    private static final Duration LONG = Duration.ofMinutes(1);

    private static SystemTool.Said sh(String script, boolean errors) throws IOException {
        return SystemTool.run(List.of("sh", "-c", script), errors, LONG, "");
    }

    @Test
    void itTellsWhatAToolSaidAndHowItEnded() throws IOException {
        assertEquals(new SystemTool.Said(0, "hello"), sh("echo; echo hello", false));
        assertEquals(new SystemTool.Said(3, "out"), sh("echo out; echo wrong >&2; exit 3", false));
        assertEquals(new SystemTool.Said(3, "out\nwrong"), sh("echo out; echo wrong >&2; exit 3", true));
        assertEquals(1 << 20, sh("head -c 1048576 /dev/zero | tr '\\0' x", true).text().length(), "more than a pipe holds");
    }

    /** Its output was read before it was waited for, so that one that hung without a word kept its reader for ever. */
    @Test
    void oneThatHangsIsEndedWhetherItsOutputIsOpenOrNot() {
        for (String hanging : List.of("exec sleep 600", "exec 1>&- 2>&-; exec sleep 600")) {
            long began = System.nanoTime();
            Fault fault = assertThrows(FaultException.class,
                () -> SystemTool.run(List.of("sh", "-c", hanging), true, Duration.ofMillis(300), "")).fault();
            assertEquals(Fault.Kind.DEVICE_FAILED, fault.kind());
            assertTrue(System.nanoTime() - began < 60_000_000_000L, "it was waited for");
        }
    }

    @Test
    void oneThatIsMissingIsNamed() {
        FaultException missing = assertThrows(FaultException.class,
            () -> SystemTool.run(List.of("no-such-tool-here"), true, LONG, "Install it, and try again."));
        assertEquals("no-such-tool-here is missing on this system. Install it, and try again.", missing.getMessage());
    }
}
