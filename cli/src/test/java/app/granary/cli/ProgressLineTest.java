package app.granary.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.engine.progress.Progress;
import java.io.PrintWriter;
import java.io.StringWriter;
import org.junit.jupiter.api.Test;

class ProgressLineTest {
    private static final long MB = 1_000_000;

    @Test
    void theLineTellsStageBytesRateAndTimeLeftAsARange() {
        ProgressLine line = new ProgressLine(ProgressOption.Form.line, new PrintWriter(new StringWriter()));
        assertEquals("Capturing: 400 MB of 1.20 GB, 200 MB written, 100 MB/s, 6 to 10 s left",
            line.text(new Progress(Progress.Stage.CAPTURING, 400 * MB, 1200 * MB, 200 * MB), 4, 4).replaceAll("\\s+", " "));
        assertEquals("Checking: 600 MB of 600 MB", line.text(new Progress(Progress.Stage.CHECKING, 600 * MB, 600 * MB, 0), 3, 1));
        assertEquals("Comparing: 0 B of 600 MB", line.text(new Progress(Progress.Stage.COMPARING, 0, 600 * MB, 0), 3, 1),
            "without a rate nothing is said of the time");
    }

    @Test
    void aProgramGetsAnObjectALineOrNothing() throws InterruptedException {
        StringWriter objects = new StringWriter();
        StringWriter nothing = new StringWriter();
        try (ProgressLine json = new ProgressLine(ProgressOption.Form.json, new PrintWriter(objects));
            ProgressLine none = new ProgressLine(ProgressOption.Form.none, new PrintWriter(nothing))) {
            for (int i = 0; i < 12; i++) {
                Thread.sleep(100);
                json.advanced(new Progress(Progress.Stage.CAPTURING, i, 12, 3));
                none.advanced(new Progress(Progress.Stage.CAPTURING, i, 12, 3));
            }
        }
        String one = "\\{\"stage\":\"capturing\",\"doneBytes\":\\d+,\"totalBytes\":12,\"storedBytes\":3}\\R";
        assertTrue(objects.toString().matches("(" + one + "){1,4}"), objects.toString());
        assertEquals("", nothing.toString());
    }
}
