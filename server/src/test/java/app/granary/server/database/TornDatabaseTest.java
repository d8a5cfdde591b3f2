package app.granary.server.database;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.engine.media.Tools;
import app.granary.server.home.Keys;
import app.granary.server.home.StartRefused;
import app.granary.server.journal.JournalCheck;
import app.granary.server.journal.JournalEndFile;
import app.granary.server.destination.KeptForById;
import app.granary.server.journal.SealOldLines;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.time.Clock;
import java.util.Optional;
import java.util.Random;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.boot.WebApplicationType;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;

/** A damaged database file rolled back 1 020 lines unnoticed. */
@Tag("large")
class TornDatabaseTest {
    private static final int ROUNDS = 50;
    private static final int LINES = 400;
    /** H2 writes in blocks of this, and what is new at the end, where most of what it still needs lies. */
    private static final int BLOCK = 4096;
    @TempDir
    Path folder;

    /** What a start finds. */
    private record Found(String refused, String missing, long lines, boolean whole) {
    }

    private static Found open(Path home) throws Exception {
        JournalEndFile end = new JournalEndFile(home);
        OwnersConnection owner = new OwnersConnection(home, end);
        try {
            Keys keys = Keys.of(home.resolve("db"));
            owner.migrate(Flyway.configure()
                .dataSource("jdbc:h2:durable:" + home.resolve("db/granary") + ";MAX_COMPACT_TIME=0", "granary", keys.owner())
                .javaMigrations(new SealOldLines(), new KeptForById()).load());
            try (
                Connection database = Flyway.configure()
                    .dataSource("jdbc:h2:durable:" + home.resolve("db/granary"), "granary", keys.owner()).load().getConfiguration()
                    .getDataSource().getConnection();
                Statement sql = database.createStatement();
                ResultSet rows = sql.executeQuery("select count(*) from journal_entry")) {
                rows.next();
                return new Found("", end.missing().orElse(""), rows.getLong(1), JournalCheck.run(database).whole());
            }
        } catch (StartRefused refused) {
            return new Found(refused.getMessage(), "", 0, false);
        } finally {
            owner.close();
            end.close();
        }
    }

    @Test
    void cutsAndNoiseAreFoundOrSaidToTheLine() throws Exception {
        Path home = folder.resolve("home");
        try (ConfigurableApplicationContext context = new SpringApplicationBuilder(JournalUnderLoad.class).web(WebApplicationType.NONE)
            .run("--granary.home=" + home)) {
            app.granary.server.journal.Journal journal = context.getBean(app.granary.server.journal.Journal.class);
            for (int i = 1; i <= LINES; i++) {
                journal.add("ada", "note", "", app.granary.server.journal.Journal.Result.NOTE,
                    "line " + i + " of a journal that is damaged afterwards, at " + Clock.systemUTC().instant());
            }
        }
        Found sound = open(home);
        assertEquals(new Found("", "", LINES, true), sound);
        Random random = new Random(50);
        int refused = 0;
        int said = 0;
        for (int round = 0; round < ROUNDS; round++) {
            Path torn = folder.resolve("torn");
            Tools.run(folder, "rm -rf torn; cp -r home torn");
            harm(torn.resolve("db/granary.mv.db"), round % 10 == 9 ? 3 : round % 3, random);
            Found found = open(torn);
            refused += found.refused().isEmpty() ? 0 : 1;
            said += found.missing().isEmpty() ? 0 : 1;
            boolean nothingLost = found.lines() == LINES && found.whole() && found.missing().isEmpty();
            boolean saidWhat = found.lines() < LINES
                && found.missing().contains((found.lines() + 1 == LINES ? "Line " : "Lines " + (found.lines() + 1) + " to ") + LINES)
                && found.missing().contains("written 20");
            boolean saidNo = found.refused().contains("is damaged") && found.refused().contains("restore-database");
            assertTrue(nothingLost || saidWhat || saidNo, "round " + round + ": " + found);
        }
        System.out.println(ROUNDS + " cuts and noises: " + refused + " refused, " + said + " told to the line, " + (ROUNDS - refused - said)
            + " had lost nothing");
        assertTrue(refused > 0 && said > 0, "the harm reached nothing");
    }

    /** Cut, noise somewhere, the end as zeros, or noise over all but the first blocks: of that nothing can be saved,
        however it was laid. */
    private static void harm(Path file, int kind, Random random) throws Exception {
        try (RandomAccessFile bytes = new RandomAccessFile(file.toFile(), "rw")) {
            long length = bytes.length();
            if (kind == 3) {
                byte[] noise = new byte[BLOCK];
                random.nextBytes(noise);
                bytes.seek(length - (2 + random.nextInt(16)) * (long) BLOCK);
                bytes.write(noise);
            } else if (kind == 0) {
                bytes.setLength(length - random.nextInt((int) length / 2));
            } else {
                byte[] noise = new byte[kind == 1 ? 4096 : 64 * 1024];
                if (kind == 1) {
                    random.nextBytes(noise);
                }
                bytes.seek(kind == 1 ? (long) (random.nextDouble() * (length - noise.length)) : length - noise.length);
                bytes.write(noise);
            }
        }
    }

    /** An emptied or cut journal passed the check when its head went with it. */
    @Test
    void aJournalThatIsCutWithItsHeadIsFound() throws Exception {
        Path home = folder.resolve("home");
        try (ConfigurableApplicationContext context = new SpringApplicationBuilder(JournalUnderLoad.class).web(WebApplicationType.NONE)
            .run("--granary.home=" + home)) {
            for (int i = 1; i <= 9; i++) {
                context.getBean(app.granary.server.journal.Journal.class).add("ada", "note", "",
                    app.granary.server.journal.Journal.Result.NOTE, "line " + i);
            }
        }
        for (String cut : new String[] {
            "delete from journal_entry where id > 5; update journal_head set number = 5, seal = (select seal from journal_entry where id "
                + "= 5)",
            "delete from journal_entry; update journal_head set number = 0, seal = '" + "0".repeat(64) + "'"}) {
            try (
                Connection database = Flyway.configure()
                    .dataSource("jdbc:h2:file:" + home.resolve("db/granary"), "granary", Keys.of(home.resolve("db")).owner()).load()
                    .getConfiguration().getDataSource().getConnection();
                Statement sql = database.createStatement()) {
                for (String each : cut.split(";")) {
                    sql.execute(each);
                }
            }
            JournalCheck.Outcome outcome = OwnDatabase.check(home);
            assertTrue(!outcome.whole() && outcome.sentence().contains(" to 9 of the journal are missing"), outcome.sentence());
        }
        Files.delete(home.resolve("db/granary.mv.db"));
        SpringApplicationBuilder again = new SpringApplicationBuilder(JournalUnderLoad.class).web(WebApplicationType.NONE);
        Optional<StartRefused> refused = Optional.empty();
        try (ConfigurableApplicationContext never = again.run("--granary.home=" + home)) {
            assertTrue(never == null, "it came up as on a first visit");
        } catch (StartRefused said) {
            refused = Optional.of(said);
        }
        assertTrue(refused.orElseThrow().getMessage().contains("its journal had 9 lines"), refused.get().getMessage());
    }
}
