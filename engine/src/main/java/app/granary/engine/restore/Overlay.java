package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.SourceOver;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.nbd.NbdServer;
import app.granary.engine.progress.Rest;
import app.granary.engine.source.Folders;
import app.granary.engine.source.RawSource;
import app.granary.engine.source.StaleMounts;
import app.granary.engine.tool.SystemTool;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.MappingIterator;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;

/**
 * A disk that the system's tools see as a file they may change. What they write goes into a file of its own (qcow2) that holds nothing
 * else; all else is read of the disk, by the NBD protocol, as they ask for it. {@code qemu-storage-daemon} shows it, through FUSE.
 */
final class Overlay implements Closeable {
    /**
     * Part of what must be set for tools that change it: a hole that a program cuts into the shown file keeps its bytes (seen with
     * qemu-storage-daemon 7.2), so nothing may be made zeros that way. libext2fs writes zeros where this is set; ntfsresize cuts no holes.
     */
    static final Map<String, String> ENVIRONMENT = Map.of("UNIX_IO_NOZEROOUT", "1");

    private static final Path FUSE = Path.of("/dev/fuse");
    private static final String SHOWS = "qemu-storage-daemon";
    private static final String INSTALL = "Install the packages qemu-system-common and qemu-utils.";
    private static final Duration PATIENCE = Duration.ofSeconds(20);
    /** Telling what was written takes long where that is much. */
    private static final Duration TELLING = Duration.ofMinutes(10);
    /** Of the disk, in bytes: of that much, 262 144 clusters at most are told at once. */
    private static final long TOLD_AT_ONCE = 16L << 30;
    private static final long LOOK_MILLIS = 5;
    /** It ends with whoever started it, also with one that was killed: the pipe is closed then. */
    private static final String UNTIL_CLOSED = "exec 3<&0; \"$@\" & shown=$!; { read -r end <&3; kill $shown; } & reader=$!; "
        + "wait $shown; kill $reader";

    private final Base disk;
    private final Path written;
    private final Path shown;
    private final Path socket;
    private final NbdServer server;
    private final Process shows;

    /** Tells of the first failure, which a tool can only call an error of reading. */
    private static final class Base extends SourceOver {
        private volatile Optional<IOException> failed = Optional.empty();

        Base(BlockSource source) {
            super(source);
        }

        BlockSource itself() {
            return source;
        }

        @Override
        public void read(long offsetBytes, ByteBuffer into) throws IOException {
            try {
                source.read(offsetBytes, into);
            } catch (IOException telling) {
                failed = failed.isPresent() ? failed : Optional.of(telling);
                throw telling;
            }
        }
    }

    /** How a disk is shown to tools as a file. */
    interface Shows {
        /** On a system that cannot. */
        Shows NOTHING = (disk, folder, name) -> Optional.empty();

        /** See {@link Overlay#over}. */
        Optional<Overlay> over(BlockSource disk, Path folder, String name) throws IOException;
    }

    private Overlay(Base disk, Path folder, String name, Path socket) throws IOException {
        this.disk = disk;
        this.written = folder.resolve(name + ".qcow2");
        this.shown = Files.createFile(folder.resolve(name));
        this.socket = socket;
        this.server = NbdServer.onSocket(socket.resolve("disk"), disk, "disk");
        try {
            SystemTool.Said made = SystemTool.run(List.of("qemu-img", "create", "-q", "-f", "qcow2", "-F", "raw", "-b", server.uri(),
                written.toString()), true, PATIENCE, INSTALL);
            if (made.exit() != 0) {
                throw new IOException(made.text());
            }
            this.shows = started(SystemTool.find(SHOWS, INSTALL), folder.resolve(name + ".said"));
        } catch (IOException cannot) {
            server.close();
            throw cannot;
        }
    }

    /**
     * @param disk   read until this is closed; stays its owner's to close
     * @param folder for what is written, with room for it
     * @param name   of the file that is shown there; nothing has it yet
     * @return empty where this system cannot show it: a program is missing, or may not
     */
    static Optional<Overlay> over(BlockSource disk, Path folder, String name) throws IOException {
        if (!Files.isWritable(FUSE)) {
            return Optional.empty();
        }
        Path socket = Files.createTempDirectory("granary-overlay-");
        Optional<Overlay> made = Optional.empty();
        try {
            made = Optional.of(new Overlay(new Base(disk), folder, name, socket));
            if (made.get().isShown()) {
                return made;
            }
        } catch (java.io.InterruptedIOException stopped) {
            throw stopped;
        } catch (IOException cannot) {
            // it can be done without
        }
        if (made.isPresent()) {
            made.get().close();
        }
        Folders.delete(socket);
        for (String each : List.of("", ".qcow2", ".said")) {
            Files.deleteIfExists(folder.resolve(name + each));
        }
        return Optional.empty();
    }

    private Process started(String program, Path said) throws IOException {
        ObjectMapper json = new ObjectMapper();
        ObjectNode node = json.createObjectNode().put("driver", "qcow2").put("node-name", "changed");
        // a power cut makes the file worthless anyhow, so it need not be forced onto its device
        node.putObject("file").put("driver", "file").put("filename", written.toString()).putObject("cache").put("no-flush", true);
        node.putObject("cache").put("no-flush", true);
        ObjectNode export = json.createObjectNode().put("type", "fuse").put("id", "shown").put("node-name", "changed")
            .put("mountpoint", shown.toString()).put("writable", true);
        return new ProcessBuilder("sh", "-c", UNTIL_CLOSED, "sh", program, "--blockdev", node.toString(), "--export", export.toString())
            .redirectErrorStream(true).redirectOutput(said.toFile()).start();
    }

    private boolean isShown() throws IOException {
        long end = System.nanoTime() + PATIENCE.toNanos();
        while (Files.size(shown) != disk.sizeBytes()) {
            if (System.nanoTime() > end || !shows.isAlive()) {
                return false;
            }
            Rest.millis(LOOK_MILLIS);
        }
        return true;
    }

    /** Where tools find it. */
    Path file() {
        return shown;
    }

    /** @throws IOException what was the matter, where a tool could not read something of the disk */
    void requireRead() throws IOException {
        if (disk.failed.isPresent()) {
            throw disk.failed.get() instanceof FaultException known ? known.fault().asException() : disk.failed.get();
        }
    }

    /** The disk with what was written over it. It is shown no longer. */
    Overlaid changed() throws IOException {
        end();
        List<Overlaid.Written> out = new ArrayList<>();
        // resize2fs cuts the file as well
        long left = new ObjectMapper().readTree(told("info")).path("virtual-size").asLong(-1);
        if (left < 0 || left > disk.sizeBytes()) {
            throw failed("qemu-img cannot tell how much is left");
        }
        for (long from = 0; from < left; from += TOLD_AT_ONCE) {
            written(from, Math.min(TOLD_AT_ONCE, left - from), out);
        }
        return new Overlaid(disk.itself(), RawSource.open(written), out);
    }

    private String told(String what, String... more) throws IOException {
        List<String> command = new ArrayList<>(List.of("qemu-img", what, "--output=json", "-f", "qcow2"));
        command.addAll(List.of(more));
        command.add(written.toString());
        SystemTool.Said said = SystemTool.run(command, false, TELLING, INSTALL);
        if (said.exit() != 0) {
            throw failed("qemu-img cannot tell what was written");
        }
        return said.text();
    }

    private void written(long from, long bytes, List<Overlaid.Written> out) throws IOException {
        String told = told("map", "--start-offset=" + from, "--max-length=" + bytes);
        long at = from;
        try (MappingIterator<JsonNode> all = new ObjectMapper().readerFor(JsonNode.class).readValues(told)) {
            while (all.hasNext()) {
                JsonNode each = all.next();
                long end = at + each.path("length").asLong(-1);
                boolean own = each.path("depth").asInt(-1) == 0;
                boolean zeros = each.path("zero").asBoolean();
                if (each.path("start").asLong(-1) != at || end <= at || !each.has("depth") || own && !zeros && !each.has("offset")) {
                    throw failed("qemu-img told something else than where it was written");
                }
                if (own) {
                    out.add(new Overlaid.Written(at, end, zeros ? Overlaid.Written.ZEROS : each.path("offset").asLong()));
                }
                at = end;
            }
        }
        if (at != from + bytes) {
            throw failed("qemu-img did not tell all that was written");
        }
    }

    private IOException failed(String why) {
        return Fault.of(Fault.Kind.DEVICE_FAILED, written.toString(), "What was changed on the way cannot be read: " + why + ".")
            .asException();
    }

    /** All that was written is in the file then. */
    private void end() throws IOException {
        shows.getOutputStream().close();
        try {
            if (!shows.waitFor(PATIENCE.toSeconds(), TimeUnit.SECONDS)) {
                shows.descendants().forEach(ProcessHandle::destroyForcibly);
                throw failed(SHOWS + " does not end");
            }
        } catch (InterruptedException stopped) {
            throw Rest.interrupted();
        }
    }

    @Override
    public void close() throws IOException {
        try {
            if (shows.isAlive()) {
                end();
            }
        } finally {
            server.close();
            Folders.delete(socket);
            StaleMounts.release(shown.getParent());
        }
    }
}
