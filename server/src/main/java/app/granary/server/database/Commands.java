package app.granary.server.database;

import app.granary.server.journal.JournalCheck;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Set;

/** What can be done with a home folder while no Granary runs on it. */
public final class Commands {
    private static final Set<String> NAMES = Set.of("check-journal", "restore-database");

    private Commands() {
    }

    public static boolean are(String[] args) {
        return args.length > 0 && NAMES.contains(args[0]);
    }

    /** @return 0 when it is well, 1 when a journal is not what was written, 2 when it could not be done */
    public static int run(List<String> args, Clock clock, PrintStream out, PrintStream err) {
        try {
            if (args.get(0).equals("check-journal") && args.size() == 2) {
                JournalCheck.Outcome outcome = OwnDatabase.check(Path.of(args.get(1)));
                out.println(outcome.sentence());
                outcome.breaks().forEach(each -> out.println("  " + each.sentence()));
                return outcome.whole() ? 0 : 1;
            }
            if (args.get(0).equals("restore-database") && args.size() == 3) {
                out.println(OwnDatabase.restore(Path.of(args.get(1)), Path.of(args.get(2)), clock.instant()));
                return 0;
            }
            err.println("Write check-journal HOME, or restore-database COPY HOME.");
        } catch (OwnDatabase.Trouble trouble) {
            err.println(trouble.getMessage());
        } catch (IOException failed) {
            err.println("A file could not be read or written: " + failed.getMessage() + ". Nothing was changed.");
        }
        return 2;
    }
}
