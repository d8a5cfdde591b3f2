package app.granary.server;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.server.journal.JournalCheck;
import app.granary.server.destination.KeptForById;
import app.granary.server.journal.SealOldLines;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.MigrationVersion;
import org.junit.jupiter.api.Test;

/** Migrations over a database that holds data of the version before: nothing is lost. */
class MigrationTest {
    private static final String URL = "jdbc:h2:mem:migration;DB_CLOSE_DELAY=-1";

    private static Flyway flyway(String target) {
        return Flyway.configure().dataSource(URL, "sa", "").locations("classpath:db/migration").javaMigrations(new SealOldLines(),
            new KeptForById())
            .target(target.equals("latest") ? MigrationVersion.LATEST : MigrationVersion.fromVersion(target)).load();
    }

    private static long count(Statement sql, String table) throws SQLException {
        try (ResultSet rows = sql.executeQuery("select count(*) from " + table)) {
            rows.next();
            return rows.getLong(1);
        }
    }

    @Test
    void whatIsSaidOfDestinationsStaysWhenMoreCanBeSaid() throws SQLException {
        String url = "jdbc:h2:mem:destinations;DB_CLOSE_DELAY=-1";
        Flyway.configure().dataSource(url, "sa", "").locations("classpath:db/migration").javaMigrations(new SealOldLines(),
            new KeptForById()).target("4")
            .load().migrate();
        try (Connection connection = DriverManager.getConnection(url, "sa", ""); Statement sql = connection.createStatement()) {
            sql.execute(
                "insert into destination (id, name, place_kind, place, place_since, rotation, eject_note, health_note, capacity_bytes, "
                    + "free_bytes, write_rate_bytes, measured_at, version) "
                    + "values ('peg-1', 'PEG-1', 'SAFE', 'shelf 2', now(), 'weekly pair', 'eject first', 'two bad sectors', 500, 300, "
                    + "20, now(), 7)");
            Flyway.configure().dataSource(url, "sa", "").locations("classpath:db/migration").javaMigrations(new SealOldLines(),
                new KeptForById()).load()
                .migrate();
            try (ResultSet row = sql.executeQuery("select * from destination")) {
                assertTrue(row.next());
                assertEquals("two bad sectors", row.getString("health_note"));
                assertEquals("", row.getString("shared_link"));
                assertEquals("[]", row.getString("only_for"));
                assertEquals(false, row.getBoolean("leaves_building"));
                assertEquals(7, row.getLong("version"));
            }
        }
    }

    @Test
    void whatTheFirstVersionKeptIsThereAfterTheLast() throws SQLException {
        flyway("1").migrate();
        try (Connection connection = DriverManager.getConnection(URL, "sa", ""); Statement sql = connection.createStatement()) {
            sql.execute("insert into account values ('ada', 'x', 'TECHNICIAN', now())");
            sql.execute(
                "insert into image values (random_uuid(), 'a', 'datum-1', 'DATUM', 'disk', 's', 'peg-1', 'PEG-1', now(), 'ada', 'zstd', "
                    + "3, 1, 1, 1, 1, 1, 1)");
            for (int i = 0; i < 3; i++) {
                sql.execute(
                    "insert into journal_entry (at, account, action, subject, result, sentence) values (now(), 'ada', 'capture', "
                        + "'DATUM', 'DONE', 'made "
                        + i + "')");
            }
            sql.execute("delete from journal_entry where sentence = 'made 0'"); // as a transaction that did not come to its end left a gap
            assertTrue(flyway("latest").migrate().migrationsExecuted > 0);
            assertEquals(2, count(sql, "journal_entry"));
            assertEquals("2 lines, and each is what was written.",
                JournalCheck.run(connection).sentence().replaceAll(" The last seal.*", ""));
            for (String table : new String[] {"account", "image"}) {
                assertEquals(1, count(sql, table), table);
            }
            assertEquals(0, count(sql, "computer"));
            assertTrue(flyway("latest").validateWithResult().validationSuccessful);
        }
    }

    /** What version 12 called an image was a copy: what copies had in common becomes the image, and nothing is lost on the way. */
    @Test
    void copiesOfOneImageBecomeCopiesOfIt() throws SQLException {
        String url = "jdbc:h2:mem:copies;DB_CLOSE_DELAY=-1";
        Flyway.configure().dataSource(url, "sa", "").locations("classpath:db/migration").javaMigrations(new SealOldLines(),
            new KeptForById()).target("12")
            .load().migrate();
        try (Connection connection = DriverManager.getConnection(url, "sa", ""); Statement sql = connection.createStatement()) {
            String first = "00000000-0000-0000-0000-000000000001";
            String second = "00000000-0000-0000-0000-000000000002";
            String found = "00000000-0000-0000-0000-000000000003";
            imagesOfVersion12(sql, first, second, found);
            sql.execute("insert into image_hold values (random_uuid(), '" + first + "', 'until the move', null, now(), 'ada', null, '')");
            sql.execute("insert into image_release values (random_uuid(), '" + second
                + "', 'DATUM-a', 'DATUM disk 1', 'cairn', 'CAIRN', 5, 'too-old', 'why', now(), 'ada', 'TRASH', '', now(), null, 0)");
            sql.execute("insert into image_file values (random_uuid(), '" + found + "', 0, 'a.img', 5, 'd', 'list')");
            Flyway.configure().dataSource(url, "sa", "").locations("classpath:db/migration").javaMigrations(new SealOldLines(),
                new KeptForById()).load()
                .migrate();
            assertEquals("2 3 3 1 1 1", value(sql,
                "select (select count(*) from image) || ' ' || (select count(*) from image_copy) || ' ' || (select count(*) from "
                    + "image_check) || ' ' || (select count(*) from image_hold) "
                    + "|| ' ' || (select count(*) from image_release) || ' ' || (select count(*) from image_file)"));
            assertEquals("as made\ncopied by hand", value(sql, "select note from image where id = '" + first + "'"),
                "what was noted of either is noted of the image");
            assertEquals("MADE DATUM-a DATUM S1 ada zstd 10 8 30 [\"recovery\",\"a \\\"quoted\\\" \\\\ part\"] c", value(sql,
                "select origin || ' ' || name || ' ' || computer || ' ' || serial || ' ' || made_by || ' ' || codec || ' ' || raw_bytes "
                    + "|| ' ' || used_bytes "
                    + "|| ' ' || recheck_days || ' ' || lacks || ' ' || content_digest from image where id = '" + first + "'"));
            assertEquals("cairn CAIRN 5 RELEASED j ada", value(sql,
                "select destination_id || ' ' || destination || ' ' || stored_bytes || ' ' || shelf || ' ' || joined_digest || ' ' || "
                    + "laid_by from image_copy where id = '"
                    + second
                    + "' and image_id = '" + first + "'"));
            assertEquals("1 1 1",
                value(sql,
                    "select (select count(*) from image_check c join image_copy k on c.copy_id = k.id where k.id = '" + second
                        + "') || ' ' || (select count(*) from image_hold h join image i on h.image_id = "
                        + "i.id) || ' ' || (select count(*) from image_release r join image_copy k on r.copy_id = k.id)"));
        }
    }

    private static void imagesOfVersion12(Statement sql, String first, String second, String found) throws SQLException {
        for (String[] row : new String[][] {{first, first, "MADE", "peg-1", "as made", "KEPT"},
            {second, first, "COPIED", "cairn", "copied by hand", "RELEASED"}, {found, found, "FOUND", "cairn", "", "GONE"}}) {
            sql.execute(
                "insert into image (id, name, disk_id, computer, disk, serial, destination_id, destination, made_at, made_by, codec, "
                    + "level, raw_bytes, used_bytes, stored_bytes, low_bytes, likely_bytes, "
                    + "high_bytes, encrypted, bad_bytes, bad_places, set_id, origin, note, location, recheck_days, joined_digest, "
                    + "content_digest, inside, shelf, lacks) values ('"
                    + row[0] + "', 'DATUM-a', 'datum-1', "
                    + "'DATUM', 'disk 1', 'S1', '" + row[3] + "', upper('" + row[3]
                    + "'), timestamp with time zone '2026-11-01 10:00:00Z', 'ada', 'zstd', 3, 10, 8, 5, 1, 2, 3, false, 0, 0, '"
                    + row[1] + "', '"
                    + row[2] + "', '" + row[4] + "', '', 30, 'j', 'c', '', '" + row[5]
                    + "', U&'recovery\\000aa \"quoted\" \\\\ part')");
            sql.execute(
                "insert into image_check (id, image_id, checked_at, checked_by, level, ok, read_bytes, problems) values "
                    + "(random_uuid(), '"
                    + row[0] + "', now(), 'ada', 'SOUND', true, 5, '[]')");
        }
    }

    /** What was asked of runs lay in five forms, and lists lay as lines, tabs and commas, of which one in a name cut them in two. */
    @Test
    void ordersAndListsBecomeJson() throws SQLException, IOException {
        String url = "jdbc:h2:mem:orders;DB_CLOSE_DELAY=-1";
        Flyway.configure().dataSource(url, "sa", "").locations("classpath:db/migration").javaMigrations(new SealOldLines(),
            new KeptForById()).target("13")
            .load().migrate();
        try (Connection connection = DriverManager.getConnection(url, "sa", ""); Statement sql = connection.createStatement()) {
            String run = "00000000-0000-0000-0000-000000000009";
            listsOfVersion13(sql);
            runsOfVersion13(sql, run);
            Flyway.configure().dataSource(url, "sa", "").locations("classpath:db/migration").javaMigrations(new SealOldLines(),
                new KeptForById()).load()
                .migrate();
            ObjectMapper json = new ObjectMapper();
            assertEquals(json.readTree("[\"MONDAY\",\"FRIDAY\"]"), json.readTree(value(sql, "select working_days from office_hours")));
            assertEquals(json.readTree("{\"2026-12-25\":\"Christmas \\\"Day\\\"\",\"2026-12-26\":\"\"}"),
                json.readTree(value(sql, "select closed_days from office_hours")));
            assertEquals(
                json.readTree(
                    "[{\"computer\":\"DATUM\",\"targetId\":\"spare \\\"1\\\"\"},{\"computer\":\"PLUMB\",\"targetId\":\"spare\\\\2\"}]"),
                json.readTree(value(sql, "select targets from rollout")));
            assertEquals("[\"BIOS\",\"UEFI\"] []", value(sql, "select starts || ' ' || pending_starts from rescue_stick"));
            assertEquals(
                json.readTree(
                    "[{\"what\":\"swap-file\",\"path\":\"/a \\\"b\\\"\",\"bytes\":7},{\"what\":\"swap\",\"path\":\"\",\"bytes\":12}]"),
                json.readTree(value(sql, "select left_out from disk_partition")));
            assertEquals("[\"It starts\",\"Log-in works\"] [\"one\",\"two \\\"quoted\\\"\"] []",
                value(sql, "select checked || ' ' || target_held || ' ' || lost from restoration"));
            assertEquals(json.readTree(
                "{\"target\":{\"targetId\":\"t-1\",\"identity\":{\"model\":\"Mo "
                    + "\\\"del\\\"\",\"serial\":\"S\\\\1\",\"sizeBytes\":99,\"worldWideName\":\"\"},\"holds\":[\"an old \",\"table\"]},"
                    + "\"how\":{\"scheme\":\"GPT\",\"fileSystem\":\"EXT4\",\"name\":\"PEG-9\",\"rescueBytes\":0}}"),
                json.readTree(value(sql, "select document from work_order where run_id = '" + run + "'")));
            assertEquals("4 1 1 1 7.0", value(sql,
                "select (select count(*) from work_order) || ' ' || (select count(*) from capture_time) || ' ' || (select count(*) from "
                    + "run where found_damage) || ' ' "
                    + "|| (select count(*) from run where waits = 'PASSPHRASE') || ' ' || (select plain_seconds from capture_time)"));
        }
    }

    /** What goes by a computer followed its name, and a name that was given anew was another computer's. */
    @Test
    void whatGoesByAComputerGoesByItsId() throws SQLException {
        String url = "jdbc:h2:mem:by-id;DB_CLOSE_DELAY=-1";
        Flyway.configure().dataSource(url, "sa", "").locations("classpath:db/migration")
            .javaMigrations(new SealOldLines(), new KeptForById()).target("15").load().migrate();
        try (Connection connection = DriverManager.getConnection(url, "sa", ""); Statement sql = connection.createStatement()) {
            sql.execute("set referential_integrity false");
            String id = "00000000-0000-0000-0000-000000000001";
            sql.execute("insert into computer (id, name, role, owner, maker, model, firmware, operating_system, encryption, key_place, "
                + "key_note, boot_key, note, source, changed_at, version) values ('" + id
                + "', 'DATUM', '', '', '', '', 'UEFI', '', 'UNKNOWN', 'UNKNOWN', '', '', '', 'by hand', now(), 0)");
            for (String[] row : new String[][] {{"datum", "1"}, {"GONE", "2"}}) {
                sql.execute("insert into boot_trial values (random_uuid(), random_uuid(), '" + row[0] + "', now(), 'ada', true, " + row[1]
                    + ", '')");
            }
            sql.execute("insert into destination (id, name, place_kind, place, place_since, rotation, eject_note, health_note, "
                + "capacity_bytes, free_bytes, write_rate_bytes, measured_at, version, only_for) values ('peg-1', 'PEG-1', 'SAFE', '', "
                + "now(), '', '', '', 500, 300, 20, now(), 7, '[\"Datum\",\"GONE\"]')");
            Flyway.configure().dataSource(url, "sa", "").locations("classpath:db/migration")
                .javaMigrations(new SealOldLines(), new KeptForById()).load().migrate();
            assertEquals(id + " 1", value(sql, "select computer_id || ' ' || write_count from boot_trial where computer_id is not null"));
            assertEquals("GONE", value(sql, "select computer from boot_trial where computer_id is null"));
            assertEquals("[\"" + id + "\",\"GONE\"]", value(sql, "select only_for from destination"));
        }
    }

    /** A stick that was being written when Granary was killed was told to hold what it had held before. */
    @Test
    void aStickThatWasBeingWrittenIsKnownToBe() throws SQLException {
        String url = "jdbc:h2:mem:sticks;DB_CLOSE_DELAY=-1";
        Flyway.configure().dataSource(url, "sa", "").locations("classpath:db/migration").javaMigrations(new SealOldLines(),
            new KeptForById()).target("14")
            .load().migrate();
        try (Connection connection = DriverManager.getConnection(url, "sa", ""); Statement sql = connection.createStatement()) {
            for (String[] row : new String[][] {{"00000000-0000-0000-0000-000000000001", "RUNNING", "KEY-A"},
                {"00000000-0000-0000-0000-000000000002", "QUEUED", "KEY-B"}}) {
                sql.execute("insert into run (id, kind, state, computer, disk_id, disk, destination_id, destination, image_name, begun_at, "
                    + "begun_by, likely_bytes, low_seconds, high_seconds, stored_bytes, outcome) values ('" + row[0] + "', 'STICK', '"
                    + row[1] + "', '', '', '', '', '', 'x', now(), 'ada', 0, 0, 0, 0, '')");
                sql.execute("insert into rescue_stick values (random_uuid(), '" + row[2] + "', 'stick', 'm', 's', 9, 'rescue', '[]', "
                    + "now(), 1, 0, '', false, null, '" + row[0] + "', 'new', '[]', 0)");
            }
            Flyway.configure().dataSource(url, "sa", "").locations("classpath:db/migration").javaMigrations(new SealOldLines(),
                new KeptForById()).load()
                .migrate();
            assertEquals("KEY-A", value(sql, "select listagg(name) from rescue_stick where touched"));
        }
    }

    private static void listsOfVersion13(Statement sql) throws SQLException {
        sql.execute("set referential_integrity false");
        sql.execute("delete from office_hours");
        sql.execute(
            "insert into office_hours values (1, 'UTC', '08:00', '18:00', 'MONDAY,FRIDAY', U&'2026-12-25 Christmas "
                + "\"Day\"\\000a2026-12-26 ', false, 10, 60, 0)");
        sql.execute(
            "insert into rollout values (random_uuid(), 'two', random_uuid(), 'x', U&'DATUM\\0009spare "
                + "\"1\"\\000aPLUMB\\0009spare\\\\2', now(), 'ada', null, '', 0)");
        sql.execute(
            "insert into rescue_stick values (random_uuid(), 'KEY-A', 'stick', 'm', 's', 9, 'rescue', 'BIOS,UEFI', now(), 1, 0, '', "
                + "false, null, null, '', '', 0)");
        sql.execute(
            "insert into disk_partition values (random_uuid(), 'd', 1, 0, 9, 'LINUX', '', 'ext4', 1, 8, 1, U&'swap-file\\0009/a "
                + "\"b\"\\00097\\000aswap\\0009\\000912', false, false, false, '')");
        sql.execute(
            "insert into restoration values (random_uuid(), 'SPARE', random_uuid(), null, 'x', now(), 'd', 'DATUM', 'disk', 't', "
                + "'T', 'm', 's', 9, 'DATUM', 'UEFI', null, '{}', 'DONE', '', now(), 'ada', now(), "
                + "U&'It starts\\000aLog-in works', '', null, '', '', null, 1, 0, U&'one\\000atwo \"quoted\"', '', '')");
    }

    private static void runsOfVersion13(Statement sql, String run) throws SQLException {
        for (String[] row : new String[][] {{run, "PREPARE", "DONE", "", ""},
            {"00000000-0000-0000-0000-000000000008", "CAPTURE", "DONE", "zstd", "made"},
            {"00000000-0000-0000-0000-000000000007", "CHECK", "FAILED", "", "x is damaged from byte 5 on."},
            {"00000000-0000-0000-0000-000000000006", "CAPTURE", "QUEUED", "", "It waits for its passphrase, which was not kept."}}) {
            sql.execute(
                "insert into run (id, kind, state, computer, disk_id, disk, destination_id, destination, image_name, begun_at, "
                    + "begun_by, likely_bytes, low_seconds, high_seconds, stored_bytes, outcome, codec, document, plain_seconds) "
                    + "values ('" + row[0] + "', '" + row[1] + "', '" + row[2]
                    + "', 'DATUM', 'd', 'disk', 'p', 'PEG-1', 'x', now(), 'ada', 0, 0, 0, 0, '" + row[4] + "', '" + row[3]
                    + "', '{\"proof\":\"SOUND\"}', 7)");
        }
        sql.execute("insert into drive_preparation values ('" + run
            + "', 't-1', 'Mo \"del\"', 'S\\1', 99, 'GPT', 'EXT4', 'PEG-9', 0, now(), U&'an old \\000atable')");
    }

    private static String value(Statement sql, String query) throws SQLException {
        try (ResultSet row = sql.executeQuery(query)) {
            assertTrue(row.next());
            return row.getString(1);
        }
    }
}
