package app.granary.e2e;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/** The packaged server, started as a program in a folder of its own. */
final class RunningServer implements AutoCloseable {
    private final Process process;
    private final Path home;
    private final int port;

    private RunningServer(Process process, Path home, int port) {
        this.process = process;
        this.home = home;
        this.port = port;
    }

    static RunningServer start(String... options) throws IOException {
        return start(Files.createTempDirectory(Path.of("target"), "home").toAbsolutePath(), options);
    }

    /** Kills the server, as {@code kill -9} does, and starts another one in the same folder. */
    RunningServer killAndStartAgain(String... options) throws IOException {
        process.destroyForcibly();
        try {
            process.waitFor();
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
        return start(home, options);
    }

    private static RunningServer start(Path home, String... options) throws IOException {
        int port;
        try (ServerSocket free = new ServerSocket(0)) {
            port = free.getLocalPort();
        }
        List<String> command = new ArrayList<>(List.of("java", "-Xmx512m", "-XX:+UseSerialGC", "-XX:TieredStopAtLevel=1", "-jar", jar().toString(), "--granary.home=" + home, "--server.port=" + port));
        command.addAll(List.of(options));
        Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
        StringBuilder said = new StringBuilder();
        BufferedReader out = new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8));
        for (String line = out.readLine(); line != null; line = out.readLine()) {
            said.append(line).append('\n');
            if (line.startsWith("Granary is at")) {
                Thread drain = new Thread(() -> {
                    try {
                        process.getInputStream().transferTo(java.io.OutputStream.nullOutputStream());
                    } catch (IOException ended) {
                        // the server has gone, which is how every test ends
                    }
                });
                drain.setDaemon(true);
                drain.start();
                return new RunningServer(process, home, port);
            }
        }
        throw new IOException("the server did not start:\n" + said);
    }

    private static Path jar() throws IOException {
        try (Stream<Path> files = Files.list(Path.of("../server/target"))) {
            return files.filter(f -> f.getFileName().toString().matches("granary-server-.*\\.jar")).findFirst().orElseThrow(() -> new IOException("build the server first: mvn package"));
        }
    }

    String url() {
        return "http://127.0.0.1:" + port;
    }

    Path home() {
        return home;
    }

    @Override
    public void close() throws IOException {
        process.destroy();
        try {
            process.waitFor();
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
        try (Stream<Path> walk = Files.walk(home)) {
            walk.sorted(java.util.Comparator.reverseOrder()).forEach(path -> path.toFile().delete());
        }
    }
}
