package app.granary.server.agent;

import app.granary.engine.bag.Digests;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** The agent as one archive, for computers that have none yet; there is one where Granary was started with it. */
@Component
class AgentArchive {
    static final String NAME = "agent.tar.gz";
    /** The first download crosses a line nobody can trust yet: so many digits, 80 bits, are compared by a person. */
    private static final int DIGITS = 20;
    private static final int GROUP = 4;

    private final Optional<Path> file;
    private String digits = "";
    private long ofModified = -1;

    AgentArchive(@Value("${granary.agent-archive:}") String path) {
        this.file = path.isBlank() ? Optional.empty() : Optional.of(Path.of(path));
    }

    /** Empty when there is none. */
    Optional<Path> file() {
        return file.filter(Files::isRegularFile);
    }

    /** What its SHA-256 begins with, in groups of four; an empty string when there is none. */
    synchronized String digits() throws IOException {
        Optional<Path> there = file();
        if (there.isEmpty()) {
            return "";
        }
        long modified = Files.getLastModifiedTime(there.get()).toMillis();
        if (modified != ofModified) {
            digits = Digests.of(there.get()).substring(0, DIGITS).replaceAll("(.{" + GROUP + "})(?!$)", "$1 ");
            ofModified = modified;
        }
        return digits;
    }
}
