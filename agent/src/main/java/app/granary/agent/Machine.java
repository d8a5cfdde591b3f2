package app.granary.agent;

import app.granary.core.fault.Fault;
import app.granary.engine.host.Attachments;
import app.granary.engine.host.Host;
import app.granary.engine.host.MachineHost;
import app.granary.engine.host.RemoteFolders;
import app.granary.engine.line.HostState;
import app.granary.engine.source.Folders;
import java.io.IOException;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** This computer: the same host an office has, with nothing kept beyond this start of it. */
final class Machine implements AutoCloseable {
    private final String name;
    private final Host host;
    /** What goes with it; empty for a host that has its own. */
    private final Optional<Path> scratch;

    private Machine(String name, Host host, Optional<Path> scratch) {
        this.name = name;
        this.host = host;
        this.scratch = scratch;
    }

    /**
     * @param disks  raw files that stand for disks, besides the computer's own
     * @param drives folders that stand for drives, besides those that are mounted
     * @param only   whether it has no others
     * @param lent   what the office lends
     */
    static Machine of(String name, List<Path> disks, List<Path> drives, boolean only, RemoteFolders lent) throws IOException {
        for (Path drive : drives) {
            require(Files.isDirectory(drive), drive, "folder", "--drive");
        }
        for (Path disk : disks) {
            require(Files.isRegularFile(disk), disk, "file", "--disk");
        }
        Path scratch = Files.createTempDirectory("granary-agent-");
        Path files = Files.createDirectories(scratch.resolve("disks"));
        for (Path disk : disks) {
            Files.createSymbolicLink(files.resolve(disk.getFileName().toString()), disk.toRealPath());
        }
        List<Path> real = new ArrayList<>();
        for (Path drive : drives) {
            real.add(drive.toRealPath());
        }
        String called = name.isBlank() ? hostName() : name.strip();
        return new Machine(called, MachineHost.forAnOffice(called, files, real, only ? Set.of() : Attachments.DISKS,
            lent, scratch.resolve("scratch"), Clock.systemDefaultZone()), Optional.of(scratch));
    }

    /** One whose devices are somebody else's matter. */
    static Machine of(Host host) {
        return new Machine(host.name(), host, Optional.empty());
    }

    private static void require(boolean there, Path path, String what, String option) throws IOException {
        if (!there) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, path.toString(), path + " is no " + what + ". Name a " + what + " after " + option
                + ".").asException();
        }
    }

    private static String hostName() {
        try {
            return InetAddress.getLocalHost().getHostName();
        } catch (UnknownHostException nameless) {
            return "a computer";
        }
    }

    String name() {
        return name;
    }

    /** Its devices. */
    Host host() {
        return host;
    }

    /** What it is and has now. */
    HostState state() throws IOException {
        return HostState.of(host);
    }

    @Override
    public void close() throws IOException {
        if (scratch.isPresent()) {
            Folders.delete(scratch.get());
        }
    }
}
