package app.granary.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What a plan page asks of a server: captures' times against their estimates, and one image against two hundred destinations. */
final class PlanBench {
    private static final int DESTINATIONS = 200;
    private static final int CAPTURES = Integer.getInteger("granary.captures", 24);

    private final String granary;
    private final Path home;

    PlanBench(String granary, Path home) {
        this.granary = granary;
        this.home = home;
    }

    /** @return of the captures, the share that took as long as their range said; each teaches the next, as in an office */
    double timesInside() throws IOException, InterruptedException {
        Path disks = Files.createDirectories(home.resolve("disks"));
        for (int i = 0; i < 4; i++) {
            // none as long as another: files that answer alike are told apart by nobody
            Disks.make(disks.resolve("disk-" + i + ".img"), (3L << 30) + ((long) i << 20), (400L + 250 * i) << 20, 200L << 20);
        }
        int inside = 0;
        try (OfficeServer server = new OfficeServer(granary, home)) {
            server.enter(true);
            String computers = server.get("/api/v1/computers");
            for (int waited = 0; computers.contains("\"reading\":true") && waited < 120; waited++) {
                Thread.sleep(500);
                computers = server.get("/api/v1/computers");
            }
            List<String> ids = disks(computers);
            for (int i = 0; i < CAPTURES; i++) {
                String made = server.post("/api/v1/runs",
                    "{\"diskId\":\"" + ids.get(i % ids.size()) + "\",\"destinationId\":\"granary-folder\",\"name\":\"bench-" + i
                        + "\",\"codec\":\"zstd\",\"level\":3,\"splitBytes\":null,\"allBlocks\":false,\"keepSwap\":false,\"without\":[]}",
                    "application/json");
                String run = server.get("/api/v1/runs/" + all(made, "\"id\":\"([^\"]+)\"").get(0));
                while (run.contains("\"state\":\"running\"")) {
                    Thread.sleep(50);
                    run = server.get("/api/v1/runs/" + all(made, "\"id\":\"([^\"]+)\"").get(0));
                }
                double took = (java.time.Instant.parse(all(run, "\"endedAt\":\"([^\"]+)\"").get(0)).toEpochMilli()
                    - java.time.Instant.parse(all(run, "\"begunAt\":\"([^\"]+)\"").get(0)).toEpochMilli()) / 1000.0;
                double low = Double.parseDouble(all(run, "\"lowSeconds\":([0-9.E-]+)").get(0));
                double high = Double.parseDouble(all(run, "\"highSeconds\":([0-9.E-]+)").get(0));
                boolean right = low <= took && took <= high;
                inside += right ? 1 : 0;
                System.out.printf(java.util.Locale.ROOT, "    capture %d took %.1f s, thought %.1f to %.1f%s%n", i + 1, took, low, high,
                    right ? "" : ": outside");
                Tool.shell("rm -rf '" + home.resolve("images/bench-" + i) + "'");
            }
        }
        return inside / (double) CAPTURES;
    }

    /** Milliseconds of the median answer, over loopback, workings of every destination included. */
    double assessment() throws IOException, InterruptedException {
        try (Connection database = OfficeServer.database(home);
            PreparedStatement insert = database.prepareStatement(
                "insert into destination (id, name, place_kind, place, place_since, rotation, eject_note, health_note, capacity_bytes, "
                    + "free_bytes, write_rate_bytes, "
                    + "measured_at, version) values (?, ?, 'SAFE', 'shelf', now(), '', '', '', 2000000000000, ?, 400000000, now(), 0)")) {
            for (int i = 0; i < DESTINATIONS; i++) {
                insert.setString(1, "crate-" + i);
                insert.setString(2, "CRATE-" + i);
                insert.setLong(3, 10_000_000_000L * i);
                insert.addBatch();
            }
            insert.executeBatch();
        } catch (SQLException failed) {
            throw new IOException(failed);
        }
        try (OfficeServer server = new OfficeServer(granary, home)) {
            server.enter(false);
            String disk = disks(server.get("/api/v1/computers")).get(0);
            return server.answer(50, "/api/v1/estimates?codec=zstd&level=3&diskId=" + disk, 200,
                all -> all.contains("CRATE-" + (DESTINATIONS - 1)));
        }
    }

    /** Identities of the disks that were made for this, by their names: what an identity is made of is Granary's own affair. */
    private static List<String> disks(String computers) throws IOException {
        List<String> found = all(computers, "\"id\":\"([^\"]+)\",\"name\":\"disk-\\d\\.img\"");
        if (found.isEmpty()) {
            throw new IOException("the disks that were made are not among what Granary lists: " + computers);
        }
        return found;
    }

    private static List<String> all(String text, String pattern) {
        List<String> out = new ArrayList<>();
        Matcher matcher = Pattern.compile(pattern).matcher(text);
        while (matcher.find()) {
            out.add(matcher.group(1));
        }
        return out;
    }
}
