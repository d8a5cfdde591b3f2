package app.granary.standins;

import java.io.Closeable;
import java.io.IOException;
import java.io.OutputStream;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.TimeUnit;

/**
 * The made-up office's field laptops, each a program of its own that joins the office as a computer in life does. One that is switched off
 * is ended; one that ends by itself is started again, unless the office sent it away. Safe for several threads.
 */
public final class Laptops implements Closeable {
    /** Their names. */
    public static final List<String> NAMES = List.of("THEODOLITE", "TRIPOD");
    private static final long AGAIN_SECONDS = 5;
    private static final int WELL = 0;

    /** How one comes in, once. */
    public record Invitation(URI address, String code) {
    }

    /** Who lets them in. */
    public interface Door {
        Invitation invitation() throws IOException;
    }

    private final Path office;
    private final double pace;
    private final Clock clock;
    private final StandInFaults faults;
    private final Map<String, Process> running = new ConcurrentHashMap<>();
    private volatile Door door;
    private volatile boolean closed;

    Laptops(Path office, double pace, Clock clock, StandInFaults faults) {
        this.office = office;
        this.pace = pace;
        this.clock = clock;
        this.faults = faults;
    }

    /** Starts those that are not switched off. */
    public void start(Door by) throws IOException {
        door = by;
        for (String name : NAMES) {
            if (!faults.off(name)) {
                begin(name);
            }
        }
    }

    private synchronized void begin(String name) throws IOException {
        if (closed || running.containsKey(name)) {
            return;
        }
        Path own = Files.createDirectories(office.resolve("laptops").resolve(name));
        long moved = Duration.between(Clock.systemUTC().instant(), clock.instant()).toMillis();
        List<String> command = new ArrayList<>(List.of(Path.of(System.getProperty("java.home"), "bin", "java").toString(), "-Xmx192m",
            "-XX:+UseSerialGC", "-cp", System.getProperty("java.class.path"), LaptopProcess.class.getName(), name,
            office.toAbsolutePath().toString(), own.toAbsolutePath().toString(), "" + pace, "" + moved));
        Process process = new ProcessBuilder(command).redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.appendTo(own.resolve("log").toFile())).start();
        running.put(name, process);
        Invitation in = door.invitation();
        tell(process, "join " + in.address() + " " + in.code());
        for (String disk : disks(name)) {
            for (String on : faults.onFor(disk)) {
                tell(process, "on " + on);
            }
        }
        process.onExit().thenAccept(ended -> ended(name, ended));
    }

    private static List<String> disks(String laptop) {
        return MarrowbySurveyOffice.DISKS.stream().filter(disk -> disk.computer().equals(laptop)).map(StandInDisk::id).toList();
    }

    private static void tell(Process process, String line) throws IOException {
        OutputStream to = process.getOutputStream();
        to.write((line + "\n").getBytes(StandardCharsets.UTF_8));
        to.flush();
    }

    private void ended(String name, Process process) {
        if (!running.remove(name, process) || closed) {
            return;
        }
        if (process.exitValue() == LaptopProcess.OFF) {
            faults.power(name, true);
        } else if (process.exitValue() != WELL) {
            CompletableFuture.delayedExecutor(AGAIN_SECONDS, TimeUnit.SECONDS).execute(() -> again(name));
        }
    }

    private void again(String name) {
        try {
            if (!faults.off(name)) {
                begin(name);
            }
        } catch (IOException failed) {
            // it stays away, as a laptop that does not come up
        }
    }

    /** What was switched for the office is switched for the laptop it happens to. */
    void turned(String id, boolean on) throws IOException {
        String subject = id.substring(id.indexOf(':') + 1);
        if (door == null) {
            return;
        }
        for (String name : NAMES) {
            if (id.equals(StandInFaults.OFF + ":" + name)) {
                if (on) {
                    end(name);
                } else {
                    begin(name);
                }
            }
            Process process = running.get(name);
            if (process != null && disks(name).contains(subject)) {
                try {
                    tell(process, (on ? "on " : "off ") + id);
                } catch (IOException gone) {
                    // it has just ended; the next one is told all that is on when it begins
                }
            }
        }
    }

    private void end(String name) {
        Process process = running.remove(name);
        if (process != null) {
            process.destroyForcibly(); // as when somebody holds the button down
        }
    }

    @Override
    public void close() {
        closed = true;
        NAMES.forEach(this::end);
    }
}
