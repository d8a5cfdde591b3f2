package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.fault.Fault;
import app.granary.engine.nbd.NbdServer;
import app.granary.engine.nbd.VirtualDisk;
import app.granary.engine.progress.Rest;
import app.granary.engine.source.Folders;
import java.io.BufferedWriter;
import java.io.Closeable;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * An image that was started as a computer to work at, on this machine: its screen, keys and mouse are had by VNC on loopback, what it
 * writes is kept apart from the image, and there is no network. Safe for several threads.
 */
public final class VirtualComputer implements Closeable {
    private static final long LONGEST_START_MILLIS = 20_000;
    private static final long LOOK_MILLIS = 100;
    /** As "info vnc" of the monitor tells it. */
    private static final Pattern LISTENS = Pattern.compile("Server: 127\\.0\\.0\\.1:(\\d+)");
    private static final String CHANGES = "changes.qcow2";
    private static final String PID = "pid";

    private final Path folder;
    /** A short path, as sockets need one. */
    private final Path socket;
    private final NbdServer server;
    private final Process machine;
    private final BufferedWriter monitor;
    private final int port;

    private VirtualComputer(Path folder, Path socket, NbdServer server, Process machine, BufferedWriter monitor, int port) {
        this.folder = folder;
        this.socket = socket;
        this.server = server;
        this.machine = machine;
        this.monitor = monitor;
        this.port = port;
    }

    /**
     * @param disk      read while the computer runs; stays its owner's to close
     * @param memoryMib that the computer has
     * @param folder    for it alone; made, and removed when it is closed
     * @throws app.granary.core.fault.FaultException when it cannot be started here, with what to do
     */
    public static VirtualComputer start(BlockSource disk, boolean uefi, int memoryMib, Path folder) throws IOException {
        List<String> command = new ArrayList<>(Qemu.machine(memoryMib, uefi, "restore the image onto a spare"));
        Files.createDirectories(folder);
        Path socket = Files.createTempDirectory("granary-computer-");
        NbdServer server = NbdServer.onSocket(socket.resolve("disk"), disk, "disk");
        try {
            Path changes = folder.resolve(CHANGES);
            run(folder, List.of("qemu-img", "create", "-q", "-f", "qcow2", "-F", "raw", "-b", server.uri(), changes.toString()));
            command.addAll(List.of("-pidfile", folder.resolve(PID).toString(), "-nic", "none", "-usb", "-device", "usb-tablet", "-vnc",
                "127.0.0.1:0,to=199", "-drive", "file=" + Qemu.quoted(changes.toString()) + ",format=qcow2,if=ide"));
            Path said = folder.resolve("monitor");
            Process machine = new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(said.toFile()).start();
            BufferedWriter monitor = new BufferedWriter(new OutputStreamWriter(machine.getOutputStream(), StandardCharsets.US_ASCII));
            return new VirtualComputer(folder, socket, server, machine, monitor, port(machine, monitor, said));
        } catch (IOException | RuntimeException failed) {
            server.close();
            Folders.delete(socket);
            Folders.delete(folder);
            throw failed;
        }
    }

    /**
     * Ends what a kill of this program left running, whose disk is gone, and removes what it wrote.
     *
     * @param folder that was given at the start
     */
    public static void sweep(Path folder) throws IOException {
        Path pid = folder.resolve(PID);
        if (Files.exists(pid)) {
            String number = Files.readString(pid).strip();
            // the number may be another program's by now, which does not name this folder
            ProcessHandle.of(number.matches("[0-9]{1,18}") ? Long.parseLong(number) : -1)
                .filter(each -> each.info().commandLine().orElse("").contains(pid.toString())).ifPresent(ProcessHandle::destroyForcibly);
        }
        Folders.delete(folder);
    }

    private static void run(Path folder, List<String> command) throws IOException {
        Process process = new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(folder.resolve("said").toFile()).start();
        try {
            if (!process.waitFor(30, TimeUnit.SECONDS) || process.exitValue() != 0) {
                process.destroyForcibly();
                throw failed(Files.readString(folder.resolve("said")).strip());
            }
        } catch (InterruptedException stopped) {
            process.destroyForcibly();
            throw Rest.interrupted();
        }
    }

    private static int port(Process machine, BufferedWriter monitor, Path said) throws IOException {
        long end = System.nanoTime() + TimeUnit.MILLISECONDS.toNanos(LONGEST_START_MILLIS);
        try {
            while (System.nanoTime() < end && machine.isAlive()) {
                monitor.write("info vnc\n");
                monitor.flush();
                Rest.millis(LOOK_MILLIS);
                Matcher listens = LISTENS.matcher(Files.readString(said, StandardCharsets.ISO_8859_1));
                if (listens.find()) {
                    return Integer.parseInt(listens.group(1));
                }
            }
        } catch (IOException ended) {
            // told below
        }
        machine.destroyForcibly();
        throw failed(Files.readString(said, StandardCharsets.ISO_8859_1).strip());
    }

    private static IOException failed(String said) {
        return Fault.of(Fault.Kind.DEVICE_FAILED, Qemu.PROGRAM, "The computer did not start: " + said.lines().reduce((one, last) -> last)
            .orElse("nothing was said") + ".").asException();
    }

    /** Of its screen, on loopback. */
    public int port() {
        return port;
    }

    /** Whether it is switched on. */
    public boolean running() {
        return machine.isAlive();
    }

    /** What it has written so far, in bytes as they take room. */
    public long changedBytes() throws IOException {
        Path changes = folder.resolve(CHANGES);
        return Files.exists(changes) ? Files.size(changes) : 0;
    }

    /**
     * Its disk as it left it, once it is switched off: the image with what was written to it. Whoever asks closes it.
     *
     * @throws app.granary.core.fault.FaultException while it runs
     */
    public BlockSource changed() throws IOException {
        if (running()) {
            throw Fault.of(Fault.Kind.FORBIDDEN, Qemu.PROGRAM, "The virtual computer is still running, and writes to its disk. Shut its "
                + "system down, or press its power button, and try again when it is off.").asException();
        }
        return VirtualDisk.ours(folder.resolve(CHANGES));
    }

    /** As its switch is pressed once: its system shuts it down, if it heeds that. */
    public synchronized void pressSwitch() throws IOException {
        monitor.write("system_powerdown\n");
        monitor.flush();
    }

    /** Switches it off at once, and throws away what it wrote. */
    @Override
    public void close() throws IOException {
        machine.destroy();
        try {
            if (!machine.waitFor(5, TimeUnit.SECONDS)) {
                machine.destroyForcibly();
                machine.waitFor(5, TimeUnit.SECONDS);
            }
        } catch (InterruptedException stopped) {
            machine.destroyForcibly();
            Thread.currentThread().interrupt();
        }
        server.close();
        Folders.delete(socket);
        Folders.delete(folder);
    }
}
