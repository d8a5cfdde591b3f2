package app.granary.server.home;

import java.io.IOException;
import java.net.BindException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.springframework.boot.web.server.PortInUseException;

/** What kept a start from coming to its end, in sentences a person can act on. */
public final class StartTrouble {
    /** The folder on a destination in which Granary keeps its own. */
    public static final String ON_DRIVES = "granary-office";
    /** What a copy of the database is called. */
    public static final Pattern COPY = Pattern.compile("granary-\\d{8}T\\d{6}Z\\.zip");
    /** H2's codes for a file that another process, or this one, has open. */
    private static final Set<Integer> IN_USE = Set.of(90020, 90133);
    /** H2's code for a user or password that is not known. */
    static final int WRONG_PASSWORD = 28000;

    private StartTrouble() {
    }

    /** Whether another has the database's file open. */
    public static boolean inUse(SQLException failed) {
        return IN_USE.contains(failed.getErrorCode());
    }

    /** Of the database of a home. */
    public static StartRefused of(Path home, SQLException failed) {
        if (inUse(failed)) {
            return new StartRefused("Granary runs on " + home + " already. Use that one, or stop it first.", failed);
        }
        if (failed.getErrorCode() == WRONG_PASSWORD) {
            return new StartRefused("The keys in " + home.resolve("db").resolve(Keys.FILE)
                + " do not open the database beside them. Put back the file that belongs to it, or bring back a copy. "
                + copies(home), failed);
        }
        return damaged(home, String.valueOf(failed.getMessage()).split(";|\\n")[0], failed);
    }

    /** A database that is not whole. */
    public static StartRefused damaged(Path home, String how, Throwable cause) {
        return new StartRefused("The database in " + home.resolve("db") + " is damaged (" + how + "). It stays as it is. " + copies(home),
            cause);
    }

    /** Which copies of the database there are, and how one is taken. */
    public static String copies(Path home) {
        List<Path> found = found(home);
        String elsewhere = "copies may also lie on your drives, in " + ON_DRIVES + ".";
        return found.isEmpty()
            ? "There is no copy of it in " + home.resolve("copies") + "; " + elsewhere
                + " Bring one back with: ./granary restore-database COPY " + home
            : "The newest of " + found.size() + " copies is brought back with: ./granary restore-database " + found.get(0) + " " + home
                + " (" + elsewhere + ")";
    }

    /** The copies kept in a home, newest first. */
    public static List<Path> found(Path home) {
        try (Stream<Path> files = Files.list(home.resolve("copies"))) {
            return files.filter(each -> COPY.matcher(each.getFileName().toString()).matches()).sorted(Comparator.reverseOrder()).toList();
        } catch (IOException none) {
            return List.of(); // there is no such folder where no copy was made yet
        }
    }

    /** Of anything that ended a start; empty for a fault of the program itself. */
    public static Optional<String> sentence(Throwable ended) {
        for (Throwable each = ended; each != null; each = each.getCause()) {
            if (each instanceof StartRefused) {
                return Optional.of(each.getMessage());
            }
            if (each instanceof PortInUseException port) {
                return Optional.of("Port " + port.getPort() + " is taken, perhaps by Granary itself: see http://127.0.0.1:" + port.getPort()
                    + ", or name another with GRANARY_PORT.");
            }
            if (each instanceof BindException) {
                return Optional.of("That address or port cannot be listened on: " + each.getMessage() + ".");
            }
            if (each.getCause() == each) {
                break;
            }
        }
        return Optional.empty();
    }
}
