package app.granary.server.database;

import app.granary.core.journal.JournalChain;
import app.granary.core.journal.JournalEnd;
import app.granary.server.home.Keys;
import app.granary.server.home.NotedEnd;
import app.granary.server.home.StartTrouble;
import app.granary.server.home.Unswapped;
import app.granary.server.journal.JournalCheck;
import app.granary.server.journal.JournalEndFile;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.FileChannel;
import java.nio.file.FileSystem;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Optional;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.springframework.util.FileSystemUtils;

/** The database's file in a home folder, while no Granary runs on it, and copies of it. */
final class OwnDatabase {
    static final String OWNER = "granary";
    private static final String FILE = "granary.mv.db";
    private static final DateTimeFormatter NAMED = DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);

    private OwnDatabase() {
    }

    /** Something a person can repair; its message says how. */
    static final class Trouble extends Exception {
        private static final long serialVersionUID = 1;

        Trouble(String sentence) {
            super(sentence);
        }
    }

    /** @return the name of a copy made at a moment */
    static String named(Instant at) {
        return "granary-" + NAMED.format(at) + ".zip";
    }

    /** Holds the journal of a home folder against its seals. */
    static JournalCheck.Outcome check(Path home) throws Trouble, IOException {
        Path file = home.resolve("db").resolve(FILE);
        if (!Files.isRegularFile(file)) {
            throw new Trouble("There is no database in " + home + ". Name the folder Granary keeps its data in.");
        }
        return checkFile(file);
    }

    /** For reading, as its owner, while no Granary runs on it. */
    static Connection open(Path home) throws SQLException {
        return openFile(home.resolve("db").resolve(FILE));
    }

    private static Connection openFile(Path file) throws SQLException {
        String path = file.toAbsolutePath().toString();
        try {
            return DriverManager.getConnection(
                "jdbc:h2:file:" + path.substring(0, path.length() - ".mv.db".length()) + ";IFEXISTS=TRUE;ACCESS_MODE_DATA=r", OWNER,
                Keys.of(file.toAbsolutePath().getParent()).owner());
        } catch (IOException unreadable) {
            throw new SQLException(Keys.FILE + " beside it cannot be read: " + unreadable.getMessage(), unreadable);
        }
    }

    /** A copy can be opened wherever it is brought back: its keys go with it. */
    static void addKeys(Path copy, Path folder) throws IOException {
        if (Files.exists(folder.resolve(Keys.FILE))) {
            try (FileSystem zip = FileSystems.newFileSystem(copy)) {
                Files.copy(folder.resolve(Keys.FILE), zip.getPath(Keys.FILE));
            }
        }
    }

    private static JournalCheck.Outcome checkFile(Path file) throws Trouble {
        try (Connection database = openFile(file)) {
            Optional<JournalEnd> noted = NotedEnd.read(file.toAbsolutePath().getParent());
            Optional<String> missing = noted.isEmpty() ? Optional.empty()
                : JournalEndFile.missing(database, noted.get(), "beside the database");
            return JournalCheck.run(database)
                .with(missing.map(what -> new JournalChain.Break(noted.get().number(), what)).stream().toList());
        } catch (IOException unreadable) {
            throw new Trouble(NotedEnd.FILE + " beside the database cannot be read: " + unreadable.getMessage() + ".");
        } catch (SQLException failed) {
            throw new Trouble(StartTrouble.inUse(failed)
                ? "Granary runs on this database just now. Stop it first, or ask for the check on its Journal page."
                : "The database could not be read (" + failed.getMessage().split(";|\\n")[0]
                    + "). Keep the file as it is, and bring back a copy.");
        }
    }

    /**
     * Unpacks a copy beside the database, holds its journal against its seals, and only then puts it in the database's place. What was
     * there is kept.
     *
     * @return what happened, as a sentence
     */
    static String restore(Path copy, Path home, Instant now) throws Trouble, IOException {
        if (!Files.isRegularFile(copy)) {
            throw new Trouble(copy + " is no file. Name a copy, as in granary-20261124T180000Z.zip.");
        }
        Path folder = Files.createDirectories(home).resolve("db");
        if (Files.exists(folder.resolve(FILE))) {
            checkNotInUse(folder.resolve(FILE));
        }
        Path fresh = home.resolve("db.partial");
        Unswapped.finish(home);
        FileSystemUtils.deleteRecursively(fresh);
        Files.createDirectories(fresh);
        try {
            unpack(copy, fresh);
            JournalCheck.Outcome outcome = checkFile(fresh.resolve(FILE));
            Unswapped.mark(fresh);
            String aside = "";
            if (Files.exists(folder)) {
                Path before = home.resolve("db-before-" + NAMED.format(now));
                Files.move(folder, before, StandardCopyOption.ATOMIC_MOVE);
                aside = " The database that was there is kept in " + before + ".";
            }
            Unswapped.finish(home);
            return copy.getFileName() + " was brought back to " + home + ". Its journal: " + outcome.sentence() + aside
                + " Start Granary, attach the drives, and let it look through them: images made since the copy are found there.";
        } finally {
            if (Files.exists(folder)) {
                FileSystemUtils.deleteRecursively(fresh);
            }
        }
    }

    private static void checkNotInUse(Path file) throws Trouble {
        try {
            checkFile(file);
        } catch (Trouble trouble) {
            if (trouble.getMessage().startsWith("Granary runs")) {
                throw new Trouble("Granary runs on this database just now. Stop it first.");
            }
            // a broken one is what a copy is for
        }
    }

    private static void unpack(Path copy, Path folder) throws Trouble, IOException {
        boolean found = false;
        try (InputStream file = Files.newInputStream(copy); ZipInputStream zip = new ZipInputStream(file)) {
            for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
                if (entry.getName().equals(FILE) || entry.getName().equals(Keys.FILE)) {
                    Path to = folder.resolve(entry.getName());
                    Files.copy(zip, to);
                    try (FileChannel channel = FileChannel.open(to, StandardOpenOption.WRITE)) {
                        channel.force(true);
                    }
                    found |= entry.getName().equals(FILE);
                }
            }
        }
        if (found) {
            return;
        }
        throw new Trouble(copy + " holds no database of Granary's. Name a copy, as in granary-20261124T180000Z.zip.");
    }
}
