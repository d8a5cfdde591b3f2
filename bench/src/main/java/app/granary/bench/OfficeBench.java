package app.granary.bench;

import app.granary.core.journal.JournalChain;
import app.granary.core.journal.JournalLine;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.sql.Timestamp;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;

/** An office of 500 computers with 40 000 images and 300 000 journal lines: how long a person waits for its pages, in a heap of 512 MiB. */
final class OfficeBench {
    private static final int IMAGES = 40_000;
    private static final int LINES = 300_000;
    private static final int ASKED = 60;

    private final String granary;
    private final Path home;

    OfficeBench(String granary, Path home) {
        this.granary = granary;
        this.home = home;
    }

    /** Milliseconds; of the journal also against {@code grep -i} over the same lines as CSV. */
    record Figures(double today, double images, double retention, double journal, double grep, FirstLoadBench.Figures first) {
    }

    Figures run() throws IOException, InterruptedException {
        try (OfficeServer server = new OfficeServer(granary, home)) {
            InventoryBench.p95(server);
        }
        try (Connection database = OfficeServer.database(home)) {
            database.setAutoCommit(false);
            List<String> disks = disks(database);
            destinations(database);
            plans(database, disks);
            images(database, disks);
            journal(database);
            database.commit();
        } catch (SQLException failed) {
            throw new IOException(failed);
        }
        try (OfficeServer server = new OfficeServer(granary, home)) {
            server.enter(false);
            double today = server.answer(95, "/api/v1/today", ASKED, all -> all.contains("disks covered"));
            double images = server.answer(95, "/api/v1/shelf", ASKED, all -> all.contains("\"figures\":{\"images\":" + IMAGES));
            double retention = server.answer(95, "/api/v1/retention/summary", ASKED, all -> all.contains("of " + IMAGES + " images"));
            double rare = server.answer(95, "/api/v1/journal?text=needle%20in%20line%20123456", ASKED, all -> all.contains("line 123456"));
            double common = server.answer(95, "/api/v1/journal?text=peg-7", ASKED, all -> all.contains("PEG-7"));
            double none = server.answer(95, "/api/v1/journal?text=never%20written", ASKED, all -> all.contains("\"lines\":[]"));
            Path csv = home.resolveSibling("journal.csv");
            Files.writeString(csv, server.get("/api/v1/journal/csv"));
            double grep = Tool.shell("for i in 1 2 3 4 5; do grep -ic 'never written' '" + csv + "' || true; done > /dev/null") / 5 * 1000;
            System.out.printf(java.util.Locale.ROOT,
                "    journal, 95 in 100: a rare word %.0f ms, a common one %.0f ms, none %.0f ms; grep -i over the CSV %.0f ms%n", rare,
                common, none, grep);
            return new Figures(today, images, retention, Math.max(rare, Math.max(common, none)), grep,
                FirstLoadBench.run(server.url() + "/sign-in"));
        }
    }

    private static List<String> disks(Connection database) throws SQLException {
        List<String> out = new ArrayList<>();
        try (Statement sql = database.createStatement();
            ResultSet rows = sql
                .executeQuery("select d.id, c.name from disk d join computer c on c.id = d.computer_id order by c.name, d.place")) {
            while (rows.next()) {
                out.add(rows.getString(1) + "\t" + rows.getString(2));
            }
        }
        return out;
    }

    private static void destinations(Connection database) throws SQLException {
        try (PreparedStatement insert = database.prepareStatement(
            "insert into destination (id, name, place_kind, place, place_since, rotation, eject_note, health_note, capacity_bytes, "
                + "free_bytes, write_rate_bytes, "
                + "measured_at, version) values (?, ?, ?, 'shelf', now(), '', '', '', 200000000000000, 90000000000000, 400000000, now(), "
                + "0)")) {
            for (int i = 0; i < 12; i++) {
                insert.setString(1, "peg-" + i);
                insert.setString(2, "PEG-" + i);
                insert.setString(3, i % 2 == 0 ? "SAFE" : "OFF_SITE");
                insert.addBatch();
            }
            insert.executeBatch();
        }
    }

    private static void plans(Connection database, List<String> disks) throws SQLException {
        String document = "{\"name\":\"%s\",\"source\":{\"diskId\":\"%s\",\"computer\":\"%s\",\"disk\":\"disk\",\"model\":\"Halden "
            + "S2\",\"serial\":\"x\",\"sizeBytes\":500107862016,\"without\":[]},\"codec\":\"zstd\",\"level\":3,"
            + "\"splitBytes\":null,\"allBlocks\":false,\"keepSwap\":false,\"encrypted\":false,\"destinations\":[{\"id\":\"peg-1\","
            + "\"name\":\"PEG-1\"}],\"inTurn\":false,\"rhythm\":{\"kind\":\"weekly\",\"every\":1,\"days\":[\"tuesday\"],\"day\":1},"
            + "\"window\":{\"from\":\"18:30\",\"to\":\"07:00\"},\"booted\":true,\"naming\":\"{computer}-{disk}-{date}\","
            + "\"recheckDays\":90,\"afterwards\":\"nothing\",\"mailTo\":[],\"keep\":{\"last\":0,\"daily\":7,\"weekly\":4,"
            + "\"monthly\":12,\"yearly\":3},"
            + "\"checklist\":[],\"note\":\"\"}";
        try (PreparedStatement insert = database.prepareStatement(
            "insert into plan (id, name, disk_id, document, paused, made_on, version) values (?, ?, ?, ?, false, '2020-01-01', 0)")) {
            for (int i = 0; i < 500; i++) {
                String[] disk = disks.get(i * disks.size() / 500).split("\t");
                insert.setObject(1, UUID.randomUUID());
                insert.setString(2, "plan " + i);
                insert.setString(3, disk[0]);
                insert.setString(4, String.format(document, "plan " + i, disk[0], disk[1]));
                insert.addBatch();
            }
            insert.executeBatch();
        }
    }

    private static void images(Connection database, List<String> disks) throws SQLException {
        Instant now = Instant.now().truncatedTo(ChronoUnit.MILLIS);
        try (PreparedStatement insert = database.prepareStatement(
            "insert into image (id, name, disk_id, computer, disk, serial, made_at, made_by, origin, codec, level, raw_bytes, "
                + "used_bytes, low_bytes, likely_bytes, high_bytes, "
                + "encrypted, bad_bytes, bad_places, inside, content_digest, recheck_days, note) values (?, ?, ?, ?, 'disk', 's', ?, "
                + "'ada', 'MADE', 'zstd', 3, 500107862016, 210000000000, 1, 2, 3, false, 0, 0, '', '', 90, '')");
            PreparedStatement copy = database.prepareStatement(
                "insert into image_copy (id, image_id, destination_id, destination, folder, stored_bytes, joined_digest, laid_by, shelf) "
                    + "values (?, ?, ?, ?, '', 140000000000, '', 'ada', 'KEPT')");
            PreparedStatement check = database.prepareStatement(
                "insert into image_check (id, copy_id, checked_at, checked_by, level, ok, read_bytes, problems, lost, seconds, note) "
                    + "values (?, ?, ?, 'ada', 'READABLE', ?, 1, '[]', '[]', 1, '')")) {
            for (int i = 0; i < IMAGES; i++) {
                image(i, disks, now, insert, copy, check);
                if (i % 1000 == 999) {
                    insert.executeBatch();
                    copy.executeBatch();
                    check.executeBatch();
                }
            }
            insert.executeBatch();
            copy.executeBatch();
            check.executeBatch();
        }
    }

    private static void image(int i, List<String> disks, Instant now, PreparedStatement insert, PreparedStatement copy,
        PreparedStatement check) throws SQLException {
        String[] disk = disks.get(i % disks.size()).split("\t");
        UUID id = UUID.randomUUID();
        Timestamp at = Timestamp.from(now.minus(Duration.ofHours(12L + 24L * (i / disks.size()) * 3)));
        insert.setObject(1, id);
        insert.setString(2, "image-" + i);
        insert.setString(3, disk[0]);
        insert.setString(4, disk[1]);
        insert.setTimestamp(5, at);
        insert.addBatch();
        copy.setObject(1, id);
        copy.setObject(2, id);
        copy.setString(3, "peg-" + i % 12);
        copy.setString(4, "PEG-" + i % 12);
        copy.addBatch();
        check.setObject(1, UUID.randomUUID());
        check.setObject(2, id);
        check.setTimestamp(3, at);
        check.setBoolean(4, i % 4001 != 0);
        check.addBatch();
    }

    private static void journal(Connection database) throws SQLException {
        Instant at = Instant.now().minus(Duration.ofDays(700)).truncatedTo(ChronoUnit.MILLIS);
        long number = 0;
        String seal = JournalChain.START;
        try (Statement sql = database.createStatement(); ResultSet head = sql.executeQuery("select number, seal from journal_head")) {
            if (head.next()) {
                number = head.getLong(1);
                seal = head.getString(2);
            }
        }
        try (PreparedStatement insert = database.prepareStatement(
            "insert into journal_entry (id, at, account, action, subject, devices, result, sentence, figures, evidence, corrects, seal) "
                + "values (?, ?, ?, ?, ?, '', 'DONE', ?, '', '', 0, ?)");
            Statement sql = database.createStatement()) {
            for (int i = 0; i < LINES; i++) {
                number++;
                String sentence = "Image PC-" + i % 500 + "-disk made on PEG-" + i % 12
                    + ": 140 GB stored of 210 GB read, estimated 139 GB. Read back: every digest matches and every frame decodes."
                    + (i % 1000 == 456 ? " needle in line " + i : "");
                JournalLine line = new JournalLine(number, at.plusSeconds(i * 200L), "ada", "capture", "PC-" + i % 500 + " disk", "",
                    "done", sentence, "", "", 0);
                seal = JournalChain.seal(seal, line);
                insert.setLong(1, number);
                insert.setTimestamp(2, Timestamp.from(line.at()));
                insert.setString(3, line.account());
                insert.setString(4, line.action());
                insert.setString(5, line.subject());
                insert.setString(6, sentence);
                insert.setString(7, seal);
                insert.addBatch();
                if (i % 2000 == 1999) {
                    insert.executeBatch();
                }
            }
            insert.executeBatch();
            sql.executeUpdate("update journal_head set number = " + number + ", seal = '" + seal + "'");
        }
    }
}
