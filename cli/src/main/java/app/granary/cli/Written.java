package app.granary.cli;

import app.granary.engine.restore.RestoreOutcome;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;

/** What came of writing a disk, in both forms. */
final class Written {
    private Written() {
    }

    static void print(Output output, Path target, RestoreOutcome outcome, double seconds) throws IOException {
        PrintWriter out = output.out();
        if (output.json()) {
            Printed.json(out, fields -> {
                fields.writeNumberField("targetBytes", outcome.targetBytes());
                fields.writeNumberField("writtenBytes", outcome.writtenBytes());
                fields.writeBooleanField("compared", outcome.compared());
                fields.writeNumberField("differences", outcome.differences().size());
                fields.writeNumberField("unread", outcome.unread().size());
                fields.writeNumberField("seconds", seconds);
            });
            return;
        }
        Printed.row(out, "written", Printed.size(outcome.writtenBytes()) + " onto " + target + " in " + String.format("%.1f s", seconds));
        Printed.row(out, "compared", outcome.differences().isEmpty() ? "yes, and equal" : outcome.differences().get(0).message());
        outcome.unread().forEach(each -> Printed.row(out, "unreadable", Printed.size(each.sizeBytes()) + " at " + each.startBytes()
            + " of the source, written as zeros"));
    }
}
