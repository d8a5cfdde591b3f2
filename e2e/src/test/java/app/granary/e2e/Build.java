package app.granary.e2e;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.stream.Stream;

/**
 * What {@code ./granary test} made before the browser opens: the unpacked server with its class archive, and the made-up office's disks.
 */
final class Build {
    private static final Path FOLDER = Path.of(System.getProperty("granary.build", "target")).toAbsolutePath();
    private static final String OFFICE = System.getProperty("granary.office", "");
    private static final String HOMES = System.getProperty("granary.homes", "");

    private Build() {
    }

    /** Where evidence is kept; it outlives the tests. */
    static Path folder() {
        return FOLDER;
    }

    /** How the server is started, without its own options. */
    static List<String> server() throws IOException {
        Path unpacked = FOLDER.resolve("server");
        if (Files.exists(unpacked.resolve("classes.jsa"))) {
            return List.of("java", "-Xmx512m", "-XX:+UseSerialGC", "-XX:TieredStopAtLevel=1", "-Xshare:auto", "-XX:SharedArchiveFile="
                + unpacked.resolve("classes.jsa"), "-Xlog:disable", "-Xlog:all=off",
                "-jar", unpacked.resolve("granary-server-0.1.0.jar").toString());
        }
        try (Stream<Path> files = Files.list(Path.of("../server/target"))) {
            Path jar = files.filter(f -> f.getFileName().toString().matches("granary-server-.*\\.jar")).findFirst()
                .orElseThrow(() -> new IOException("build the server first: mvn package"));
            return List.of("java", "-Xmx512m", "-XX:+UseSerialGC", "-XX:TieredStopAtLevel=1", "-jar", jar.toString());
        }
    }

    /** Options that let an office with a past start from disks captured before. */
    static List<String> past() {
        return OFFICE.isEmpty() ? List.of() : List.of("--granary.past=" + OFFICE + "/past");
    }

    /** Puts the office's disks into a new home; without them the server makes its own. */
    static void office(Path home) throws IOException {
        if (!OFFICE.isEmpty()) {
            copy(Path.of(OFFICE, "office"), home.resolve("office"));
        }
    }

    /** A home of this name kept by an earlier class or run of the same server; a path where nothing is when there is none. */
    static Path kept(String name) {
        return Path.of(HOMES.isEmpty() ? "target/no-homes" : HOMES, name);
    }

    /** Keeps a home whose server has ended. */
    static void keep(Path home, String name) throws IOException {
        if (!HOMES.isEmpty()) {
            Path partial = Files.createTempDirectory(Path.of(HOMES), name + ".partial");
            copy(home, partial.resolve("home"));
            Files.move(partial.resolve("home"), kept(name), StandardCopyOption.ATOMIC_MOVE);
            Files.delete(partial);
        }
    }

    /** Copies a folder with its holes, links and dates. */
    static void copy(Path from, Path to) throws IOException {
        try {
            Files.createDirectories(to);
            Process copying = new ProcessBuilder("cp", "-a", "--reflink=auto", from + "/.", to.toString()).redirectErrorStream(true)
                .start();
            String said = new String(copying.getInputStream().readAllBytes());
            if (copying.waitFor() != 0) {
                throw new IOException(said);
            }
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new IOException("stopped", stopped);
        }
    }
}
