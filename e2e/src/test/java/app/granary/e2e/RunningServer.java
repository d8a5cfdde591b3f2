package app.granary.e2e;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PrintWriter;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.stream.Stream;

/** The packaged server, started as a program in a folder of its own. */
final class RunningServer implements AutoCloseable {
    /** The made-up office's laptops are reached by their agents. */
    static final String LAPTOPS = "--granary.laptops=true";
    static final String LISTENS = "--granary.listen=127.0.0.1:0";

    private final Process process;
    private final Path home;
    private final int port;
    private final String printed;

    private RunningServer(Process process, Path home, int port, String printed) {
        this.printed = printed;
        this.process = process;
        this.home = home;
        this.port = port;
    }

    /** A folder for a server's data, which goes when that server is closed. */
    static Path newHome() throws IOException {
        return Files.createTempDirectory(Files.createDirectories(Path.of("target")), "home").toAbsolutePath();
    }

    /** For this machine's own devices. */
    static RunningServer start() throws IOException {
        return start(newHome());
    }

    /** For the made-up office, without a past, and quick; a fault slows it where there is something to be seen of a run. */
    static RunningServer office() throws IOException {
        Path home = newHome();
        Build.office(home);
        // whatever the hour: by day tonight would take the room, and by night the laptops' images would begin
        return start(home, "--granary.demo=true", "--granary.pace=20", "--granary.promised-after=86400000",
            "--granary.those-here-after=86400000", LISTENS, LAPTOPS);
    }

    static RunningServer start(Path home, String... options) throws IOException {
        int port;
        try (ServerSocket free = new ServerSocket(0)) {
            port = free.getLocalPort();
        }
        List<String> command = new ArrayList<>(Build.server());
        command.addAll(List.of("--granary.home=" + home, "--server.port=" + port));
        command.addAll(List.of(options));
        Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
        CompletableFuture<String> up = new CompletableFuture<>();
        Thread listener = new Thread(() -> listen(process, home.resolve("server.log"), up), "server log");
        listener.setDaemon(true);
        listener.start();
        String printed = up.join();
        if (printed.isEmpty()) {
            throw new IOException("the server did not start:\n" + Files.readString(home.resolve("server.log")));
        }
        return new RunningServer(process, home, port, printed);
    }

    /** Keeps what the server says, until it ends. */
    private static void listen(Process process, Path log, CompletableFuture<String> up) {
        try (PrintWriter kept = new PrintWriter(Files.newBufferedWriter(log, java.nio.file.StandardOpenOption.CREATE,
            java.nio.file.StandardOpenOption.APPEND), true);
            BufferedReader out = new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))) {
            for (String line = out.readLine(); line != null; line = out.readLine()) {
                kept.println(line);
                if (line.startsWith("Granary is at")) {
                    up.complete(line.substring("Granary is at ".length()));
                }
            }
        } catch (IOException ended) {
            // the server has gone, which is how every test ends
        } finally {
            up.complete("");
        }
    }

    /** Kills the server, as {@code kill -9} does, and starts another one in the same folder. */
    RunningServer killAndStartAgain(String... options) throws IOException {
        kill();
        return start(home, options);
    }

    void kill() {
        process.destroyForcibly();
        await();
    }

    String url() {
        return "http://127.0.0.1:" + port;
    }

    /** The address it printed, with its word where there is no account yet. */
    String printed() {
        return printed;
    }

    Path home() {
        return home;
    }

    private void await() {
        try {
            process.waitFor();
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
    }

    /** Ends the server and leaves its folder. */
    void end() {
        process.destroy();
        await();
    }

    @Override
    public void close() throws IOException {
        end();
        try (Stream<Path> walk = Files.walk(home)) {
            walk.sorted(java.util.Comparator.reverseOrder()).forEach(path -> path.toFile().delete());
        }
    }
}
