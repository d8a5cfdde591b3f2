package app.granary.cli;

import java.io.PrintWriter;
import java.util.Optional;
import picocli.CommandLine.Option;

/** How long work tells where it stands; on standard error, so that what is printed at the end stays alone. */
public final class ProgressOption {
    /** A line that is drawn anew, a JSON object a line, or nothing. */
    enum Form {
        line, json, none
    }

    @Option(names = "--progress", paramLabel = "FORM",
        description = "line, json (one object a line, on standard error) or none (default: line, with --json none)")
    private Optional<Form> form = Optional.empty();

    /** @param json whether what is printed at the end is for a program */
    ProgressLine watch(PrintWriter err, boolean json) {
        return new ProgressLine(form.orElse(json ? Form.none : Form.line), err);
    }
}
