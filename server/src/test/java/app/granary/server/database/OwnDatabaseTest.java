package app.granary.server.database;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.server.Server;
import app.granary.server.account.Accounts;
import app.granary.server.home.Keys;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.boot.WebApplicationType;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.jdbc.core.JdbcTemplate;

/** A database that was really worked in, copied while it was, tampered with, lost, and brought back on an empty home. */
class OwnDatabaseTest {
    @TempDir
    private Path folder;

    private record Said(int code, String out, String err) {
    }

    private static Said run(String... args) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ByteArrayOutputStream err = new ByteArrayOutputStream();
        assertTrue(Commands.are(args));
        int code = Commands.run(List.of(args), Clock.systemUTC(), new PrintStream(out, true, StandardCharsets.UTF_8),
            new PrintStream(err, true, StandardCharsets.UTF_8));
        return new Said(code, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
    }

    /** As from a shell: another process does not share this one's open database. */
    private static Said runElsewhere(String... args) throws Exception {
        List<String> command = new java.util.ArrayList<>(List.of(Path.of(System.getProperty("java.home"), "bin", "java").toString(), "-cp",
            System.getProperty("java.class.path"), Server.class.getName()));
        command.addAll(List.of(args));
        Process process = new ProcessBuilder(command).start();
        String out = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        String err = new String(process.getErrorStream().readAllBytes(), StandardCharsets.UTF_8);
        return new Said(process.waitFor(), out, err);
    }

    private static ConfigurableApplicationContext started(Path home) {
        return new SpringApplicationBuilder(Server.class).web(WebApplicationType.SERVLET).run("--granary.home=" + home,
            "--granary.demo=false", "--server.port=0");
    }

    private static String tables(ConfigurableApplicationContext server) {
        StringBuilder out = new StringBuilder();
        for (String table : new String[] {"account", "journal_entry", "journal_head", "destination", "office_choices"}) {
            server.getBean(JdbcTemplate.class)
                .queryForList("select * from " + table
                    + (table.equals("journal_entry") ? " where action = 'account created'"
                        : table.equals("journal_head") ? " where id = 0" : "")
                    + " order by 1")
                .forEach(row -> {
                    row.keySet().removeAll(Set.of("FREE_BYTES", "MEASURED_AT", "VERSION")); // measured anew when it starts
                    out.append(row).append('\n');
                });
        }
        return out.toString();
    }

    @Test
    void aCopyComesBackOnAnEmptyHomeAndTamperingIsFound() throws Exception {
        Path home = folder.resolve("home");
        Path copy;
        String before;
        try (ConfigurableApplicationContext server = started(home)) {
            Accounts accounts = server.getBean(Accounts.class);
            accounts.createFirst("ada", "a few plain words", accounts.firstWord().orElseThrow());
            String name = server.getBean(Copies.class).make("ada").name();
            copy = home.resolve("copies").resolve(name);
            before = tables(server);
            assertTrue(runElsewhere("check-journal", home.toString()).err().contains("Stop it first"));
            assertTrue(runElsewhere("restore-database", copy.toString(), home.toString()).err().contains("Stop it first"));
        }
        Said whole = run("check-journal", home.toString());
        assertEquals(0, whole.code(), whole.toString());
        assertTrue(whole.out().contains("each is what was written"), whole.out());

        oneLineIsForged(home);
        Path fresh = folder.resolve("fresh");
        Said back = run("restore-database", copy.toString(), fresh.toString());
        assertEquals(0, back.code(), back.toString());
        try (ConfigurableApplicationContext server = started(fresh)) {
            assertEquals(before, tables(server));
        }
        // every copy there is comes back, also one whose bringing back was cut off between its two renames
        int tried = 0;
        for (Path each : Files.list(home.resolve("copies")).filter(file -> file.toString().endsWith(".zip")).toList()) {
            Path other = folder.resolve("other-" + tried++);
            assertEquals(0, run("restore-database", each.toString(), other.toString()).code());
            Files.move(other.resolve("db"), other.resolve("db.partial"));
            Files.createFile(other.resolve("db.partial/ready"));
            try (ConfigurableApplicationContext server = started(other)) {
                assertEquals(before, tables(server));
            }
        }
        assertTrue(tried > 0);
        // over a broken one: what was there is kept aside
        assertEquals(0, run("restore-database", copy.toString(), home.toString()).code());
        assertEquals(0, run("check-journal", home.toString()).code());
        assertTrue(Files.list(home).anyMatch(each -> each.getFileName().toString().startsWith("db-before-")));
    }

    private void oneLineIsForged(Path home) throws Exception {
        try (
            Connection owner = DriverManager.getConnection("jdbc:h2:file:" + home.resolve("db/granary").toAbsolutePath(), "granary",
                Keys.of(home.resolve("db")).owner());
            Statement sql = owner.createStatement()) {
            sql.execute("update journal_entry set account = 'eve' where id = 1");
        }
        Said forged = run("check-journal", home.toString());
        assertEquals(1, forged.code());
        assertTrue(forged.out().contains("Line 1 is not what was written"), forged.out());
    }

    /**
     * Of the demo's office, with a hold, a release, images of other tools and a line of a paper log, as version 12 of the tables and H2 2.3
     * left it.
     */
    @Test
    void aHomeOfTheVersionBeforeOpensWithAllThatIsInIt() throws Exception {
        Path home = folder.resolve("home");
        Files.createDirectories(home.resolve("db"));
        try (ZipInputStream in = new ZipInputStream(OwnDatabaseTest.class.getResourceAsStream("/home-of-version-12.zip"))) {
            for (ZipEntry entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
                Files.write(home.resolve("db").resolve(entry.getName()), in.readAllBytes());
            }
        }
        try (ConfigurableApplicationContext server = started(home)) {
            JdbcTemplate sql = server.getBean(JdbcTemplate.class);
            Map<String, Integer> rows = new TreeMap<>();
            for (String table : List.of("image", "image_copy", "image_check", "image_hold", "image_release", "image_file", "plan", "run",
                "journal_entry", "computer", "disk", "destination")) {
                rows.put(table, sql.queryForObject(
                    "select count(*) from " + table + (table.equals("journal_entry") ? " where id <= 138" : ""), Integer.class));
            }
            assertEquals(Map.ofEntries(Map.entry("image", 43), Map.entry("image_copy", 55), Map.entry("image_check", 54),
                Map.entry("image_hold", 2), Map.entry("image_release", 1), Map.entry("image_file", 10), Map.entry("plan", 11),
                Map.entry("run", 43), Map.entry("journal_entry", 138), Map.entry("computer", 9), Map.entry("disk", 11),
                Map.entry("destination", 6)), onlyOld(rows, sql));
        }
        Said journal = run("check-journal", home.toString());
        for (int i = 0; i < 100 && journal.code() == 2; i++) { // what read the disks at the start ends after the server
            Thread.sleep(100);
            journal = run("check-journal", home.toString());
        }
        assertEquals(0, journal.code(), journal.toString());
    }

    /** This machine's own computer, folder and disks come to what was there. */
    private static Map<String, Integer> onlyOld(Map<String, Integer> rows, JdbcTemplate sql) {
        rows.computeIfPresent("computer", (table, count) -> sql
            .queryForObject("select count(*) from computer where name in (select computer from image)", Integer.class));
        rows.computeIfPresent("disk",
            (table, count) -> sql.queryForObject("select count(*) from disk where id in (select disk_id from image)", Integer.class));
        rows.computeIfPresent("destination", (table, count) -> sql
            .queryForObject("select count(*) from destination where id <> 'granary-folder' and id not like 'fs-%'", Integer.class));
        return rows;
    }

    @Test
    void whatIsNoCopyIsRefusedAndNothingChanges() throws Exception {
        Path zip = folder.resolve("other.zip");
        try (ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(zip))) {
            out.putNextEntry(new ZipEntry("../granary.mv.db"));
            out.write(1);
        }
        Path text = Files.writeString(folder.resolve("text.zip"), "no zip at all");
        for (Path each : List.of(zip, text, folder.resolve("missing.zip"))) {
            Said said = run("restore-database", each.toString(), folder.resolve("home").toString());
            assertEquals(2, said.code());
            assertTrue(!said.err().isBlank());
            assertTrue(!Files.exists(folder.resolve("home/db")) && !Files.exists(folder.resolve("granary.mv.db")));
        }
        try (ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(zip))) {
            out.putNextEntry(new ZipEntry("granary.mv.db"));
            out.write(new byte[5000]);
        }
        assertEquals(2, run("restore-database", zip.toString(), folder.resolve("home").toString()).code());
        assertEquals(2, run("check-journal", folder.resolve("nowhere").toString()).code());
        assertEquals(2, run("check-journal").code());
    }
}
