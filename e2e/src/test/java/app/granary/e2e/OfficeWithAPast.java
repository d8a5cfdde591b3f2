package app.granary.e2e;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** The made-up office on a Wednesday morning, whenever this runs, with three months behind it and a technician signed in. */
abstract class OfficeWithAPast extends BrowserTest {
    static final Instant MORNING = Instant.parse("2026-11-25T09:10:00Z");
    private static final String KEPT = "morning";
    private static final Object LAYING = new Object();

    private static RunningServer start(Path home, Instant now) throws IOException {
        List<String> options = new ArrayList<>(Build.past());
        options.addAll(List.of("--granary.demo=true", "--granary.history=true", "--granary.now=" + now, "--granary.pace=20",
            RunningServer.LISTENS, RunningServer.LAPTOPS));
        return RunningServer.start(home, options.toArray(String[]::new));
    }

    /** Its past is laid once for all classes; each goes on from a copy. */
    @Override
    RunningServer begin() throws IOException {
        Path home = RunningServer.newHome();
        synchronized (LAYING) {
            if (!Files.exists(Build.kept(KEPT))) {
                Build.office(home);
                RunningServer first = start(home, MORNING.minusSeconds(300));
                first.end();
                Files.delete(home.resolve("server.log")); // the log of each class is its own
                Build.keep(home, KEPT);
            } else {
                Build.copy(Build.kept(KEPT), home);
            }
        }
        return start(home, MORNING);
    }

    @Override
    void entered() {
        page.clock().setFixedTime(MORNING.toString());
        signIn();
    }
}
