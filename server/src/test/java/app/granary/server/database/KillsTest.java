package app.granary.server.database;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.engine.media.Tools;
import app.granary.server.home.NotedEnd;
import app.granary.server.journal.JournalCheck;
import java.io.BufferedReader;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.HashSet;
import java.util.List;
import java.util.Queue;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * 43 lines that were answered with success were lost in ten of ten kills, up to half a second old. A stopped program's files are what a
 * kill at that moment would leave: so it is stopped, its files are copied, and it goes on to the next; at the last it is killed.
 */
@Tag("large")
class KillsTest {
    private static final int KILLS = 20;
    @TempDir
    Path folder;
    private final Queue<String> done = new ConcurrentLinkedQueue<>();

    @Test
    void whatWasAnsweredWithSuccessOutlivesAKillAtAnyMoment() throws Exception {
        Random moments = new Random(20261127);
        Path home = folder.resolve("home");
        Process process = new ProcessBuilder(Path.of(System.getProperty("java.home"), "bin", "java").toString(), "-XX:TieredStopAtLevel=1",
            "-cp", System.getProperty("java.class.path"),
            JournalUnderLoad.class.getName(), "0", "--granary.home=" + home).redirectError(ProcessBuilder.Redirect.INHERIT).start();
        CountDownLatch up = new CountDownLatch(1);
        Thread reader = new Thread(() -> read(process, up));
        reader.start();
        assertTrue(up.await(120, TimeUnit.SECONDS), "it did not start");
        int last = 0;
        try {
            for (int kill = 0; kill < KILLS; kill++) {
                for (long until = System.nanoTime() + moments.nextInt(150) * 1_000_000L; System.nanoTime() < until
                    || done.size() == last;) {
                    TimeUnit.MILLISECONDS.sleep(1);
                }
                Path left = folder.resolve("left-" + kill);
                Tools.run(folder, "kill -STOP " + process.pid() + "; until grep -q 'State:.*stopped' /proc/" + process.pid()
                    + "/status; do sleep 0.005; done; cp -r home " + left);
                List<String> answered = List.copyOf(done);
                Tools.run(folder, "kill -CONT " + process.pid());
                assertNothingMissing(answered, left);
                last = answered.size();
            }
        } finally {
            process.destroyForcibly().waitFor();
        }
        reader.join();
        assertNothingMissing(List.copyOf(done), home);
        System.out.println(KILLS + " stops and a kill, " + done.size() + " lines answered with success, none missing");
    }

    private void read(Process process, CountDownLatch up) {
        try (BufferedReader out = process.inputReader()) {
            for (String line = out.readLine(); line != null; line = out.readLine()) {
                if (line.equals("up")) {
                    up.countDown();
                } else if (line.startsWith("done ") && line.endsWith(" whole")) { // the last may be cut off in the middle
                    done.add(line.substring("done ".length(), line.length() - " whole".length()));
                }
            }
        } catch (IOException killed) {
            // as it is meant to end
        }
    }

    private static void assertNothingMissing(List<String> answered, Path home) throws Exception {
        Set<String> missing = new HashSet<>(answered);
        try (Connection database = OwnDatabase.open(home);
            Statement sql = database.createStatement();
            ResultSet rows = sql.executeQuery("select sentence from journal_entry")) {
            while (rows.next()) {
                missing.remove(rows.getString(1));
            }
        }
        assertEquals(Set.of(), missing, home + ", of " + answered.size());
        JournalCheck.Outcome outcome = OwnDatabase.check(home);
        assertTrue(outcome.whole(), outcome.sentence());
        assertTrue(NotedEnd.read(home.resolve("db")).orElseThrow().number() >= answered.size(), "the end that is noted beside it");
    }
}
