package app.granary.engine.tool;

import app.granary.core.fault.Fault;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.stream.Stream;

/**
 * Runs a program of the system to its end, within a time. One that hangs says nothing and does not end: it is read beside the waiting, and
 * ended.
 */
public final class SystemTool {
    /** Where tools for disks lie, which is not on everybody's path. */
    private static final List<String> BESIDE_PATH = List.of("/usr/sbin", "/sbin");

    private static final Duration LOOK = Duration.ofMillis(500);

    private SystemTool() {
    }

    /**
     * @param exit its exit status
     * @param text what it said, without the blanks at both ends
     */
    public record Said(int exit, String text) {
    }

    /**
     * @param command   the program's name and its arguments
     * @param errors    whether what it says on its error output is wanted too
     * @param otherwise what to do where it is missing: "Install util-linux, and try again."
     * @throws app.granary.core.fault.FaultException of kind NOT_RECOGNISED when it is missing, of kind DEVICE_FAILED when it did not end in
     *                                               time
     */
    public static Said run(List<String> command, boolean errors, Duration patience, String otherwise) throws IOException {
        return run(command, errors, patience, otherwise, Watch.NONE);
    }

    /** The same, ended when whoever watches asks to stop. */
    public static Said run(List<String> command, boolean errors, Duration patience, String otherwise, Watch watch) throws IOException {
        return run(command, Map.of(), errors, patience, otherwise, watch);
    }

    /** @param environment set for the program besides what is set for this one */
    public static Said run(List<String> command, Map<String, String> environment, boolean errors, Duration patience, String otherwise,
        Watch watch) throws IOException {
        String tool = command.get(0);
        List<String> full = new ArrayList<>(command);
        full.set(0, find(tool, otherwise));
        ProcessBuilder builder = new ProcessBuilder(full).redirectErrorStream(errors);
        builder.environment().putAll(environment);
        Process process = (errors ? builder : builder.redirectError(ProcessBuilder.Redirect.DISCARD)).start();
        CompletableFuture<byte[]> said = CompletableFuture.supplyAsync(() -> read(process.getInputStream()), task -> {
            Thread reader = new Thread(task, tool);
            reader.setDaemon(true);
            reader.start();
        });
        long until = System.nanoTime() + patience.toNanos();
        try {
            while (!said.isDone() && until - System.nanoTime() > LOOK.toNanos()) {
                watch.requireGoingOn(tool);
                lookUp(said);
            }
            byte[] text = said.get(Math.max(0, until - System.nanoTime()), TimeUnit.NANOSECONDS);
            if (!process.waitFor(until - System.nanoTime(), TimeUnit.NANOSECONDS)) {
                throw new TimeoutException();
            }
            return new Said(process.exitValue(), new String(text, StandardCharsets.UTF_8).strip());
        } catch (TimeoutException | ExecutionException hangs) {
            throw Fault
                .of(Fault.Kind.DEVICE_FAILED, tool,
                    tool + " did not answer within " + patience.toSeconds() + " s. A device may hang: look at its cable, and try again.")
                .asException();
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new java.io.InterruptedIOException("stopped while " + tool + " ran");
        } finally {
            process.destroyForcibly(); // nothing, where it ended
        }
    }

    private static void lookUp(CompletableFuture<byte[]> said) throws InterruptedException, ExecutionException {
        try {
            said.get(LOOK.toMillis(), TimeUnit.MILLISECONDS);
        } catch (TimeoutException notYet) {
            return;
        }
    }

    /** Where a program lies; refused, with what to do, when it is missing. */
    public static String find(String tool, String otherwise) throws IOException {
        Stream<String> path = Stream.of(String.valueOf(System.getenv("PATH")).split(":")).filter(each -> each.startsWith("/"));
        return Stream.concat(path, BESIDE_PATH.stream()).map(folder -> folder + "/" + tool)
            .filter(each -> Files.isExecutable(Path.of(each))).findFirst()
            .orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED, tool, tool + " is missing on this system. " + otherwise).asException());
    }

    private static byte[] read(InputStream said) {
        try (said) {
            return said.readAllBytes();
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
