package app.granary.server.home;

import app.granary.core.journal.JournalEnd;
import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** Makes a home ready before anything opens what is in it: private to its owner, with keys, and of the kind this start is for. */
final class HomeFolder {
    private static final String OWNER = "granary";

    private final Path home;
    private final Path db;

    HomeFolder(Path home) {
        this.home = home;
        this.db = home.resolve("db");
    }

    /**
     * @param demo whether the office is the made-up one
     * @throws StartRefused when this home cannot be used so
     */
    Keys prepare(boolean demo) {
        try {
            Unswapped.finish(home);
            boolean fresh = !Files.exists(db.resolve("granary.mv.db"));
            boolean madeUp = Files.exists(home.resolve("office"));
            if (!fresh && madeUp != demo) {
                throw new StartRefused(demo ? home + " is a real office's. Name another folder for the demo, with GRANARY_DEMO_HOME."
                    : home + " holds the demo, whose passwords everyone knows. Name another folder with GRANARY_HOME.");
            }
            if (fresh) {
                requireNoPast();
            }
            Files.createDirectories(db);
            for (Path folder : List.of(home, db)) {
                Files.setPosixFilePermissions(folder, Private.FOLDER);
            }
            closeToOthers();
            return keys(fresh);
        } catch (AccessDeniedException denied) {
            throw new StartRefused(
                "Granary may not write into " + home + ". Give this account the right to, or name another folder with GRANARY_HOME.",
                denied);
        } catch (FileSystemException failed) {
            throw new StartRefused(
                "Granary cannot use " + home + ": " + (failed.getReason() == null ? failed.getMessage() : failed.getReason())
                    + ". Name another folder with GRANARY_HOME.",
                failed);
        } catch (IOException failed) {
            throw new StartRefused("Granary cannot use " + home + ": " + failed.getMessage() + ". Name another folder with GRANARY_HOME.",
                failed);
        }
    }

    /** An empty database in a home that had one would come up as on a first visit, and be taken for the whole. */
    private void requireNoPast() throws IOException {
        Optional<JournalEnd> end = NotedEnd.read(db);
        boolean copies = !StartTrouble.found(home).isEmpty();
        List<Path> aside = List.of();
        if (Files.isDirectory(home)) {
            try (Stream<Path> files = Files.list(home)) {
                aside = files.filter(each -> each.getFileName().toString().startsWith("db-before-")).sorted().toList();
            }
        }
        if (end.isPresent() || copies || !aside.isEmpty()) {
            throw new StartRefused("The database of " + home + " is missing"
                + end.map(last -> "; its journal had " + last.number() + " lines on " + last.at()).orElse("")
                + ". Nothing was begun anew. " + StartTrouble.copies(home)
                + (aside.isEmpty() ? "" : " An earlier database lies in " + aside.get(aside.size() - 1) + "."));
        }
    }

    /** What was made before homes were private. */
    private void closeToOthers() throws IOException {
        try (Stream<Path> files = Files.list(db)) {
            for (Path each : files.filter(file -> Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)).toList()) {
                Files.setPosixFilePermissions(each, Private.FILE);
            }
        }
    }

    private Keys keys(boolean fresh) throws IOException {
        Path file = db.resolve(Keys.FILE);
        if (Files.exists(file)) {
            return Keys.of(db);
        }
        Path asked = db.resolve("keys.partial");
        if (!Files.exists(asked)) {
            Keys.random(new SecureRandom()).write(asked);
        }
        Keys keys = Keys.parse(Files.readString(asked));
        if (!fresh) {
            lock(keys);
        }
        keys.write(file);
        Files.delete(asked);
        return keys;
    }

    /** A database from before there were passwords gets them; once more where the first time did not come to its end. */
    private void lock(Keys keys) {
        for (String password : List.of("", keys.owner())) {
            try (
                Connection owner = DriverManager.getConnection("jdbc:h2:file:" + db.toAbsolutePath().resolve("granary") + ";IFEXISTS=TRUE",
                    OWNER, password);
                Statement sql = owner.createStatement()) {
                sql.execute("alter user " + OWNER + " set password '" + keys.owner() + "'");
                return;
            } catch (SQLException refused) {
                if (refused.getErrorCode() != StartTrouble.WRONG_PASSWORD) {
                    throw StartTrouble.of(home, refused);
                }
            }
        }
        throw new StartRefused("The database in " + db + " has keys of its own, and " + db.resolve(Keys.FILE)
            + " is missing. Put that file back, or bring back a copy: ./granary restore-database COPY " + home);
    }
}
