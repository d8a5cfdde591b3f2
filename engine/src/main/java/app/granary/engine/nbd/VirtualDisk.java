package app.granary.engine.nbd;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.SourceOver;
import app.granary.core.fault.Fault;
import app.granary.engine.source.Folders;
import app.granary.engine.tool.SystemTool;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;

/**
 * A disk in a container that other programs' virtual computers use (qcow2, VHD, VHDX, VMDK), read block by block through {@code qemu-nbd}.
 * The file is only read.
 */
public final class VirtualDisk extends SourceOver {
    private static final String SERVER = "qemu-nbd";
    private static final String INSTALL = "Install the package qemu-utils to read the disks of virtual computers.";
    private static final Duration PATIENCE = Duration.ofSeconds(20);
    private static final int SECTOR = 512;
    /**
     * The first bytes of each, and its name with the tools (QEMU's docs/interop for qcow2; the others' open specifications; from memory).
     */
    private static final Map<String, String> BEGINNINGS = Map.of("QFI\u00fb", "qcow2", "vhdxfile", "vhdx", "KDMV", "vmdk",
        "# Disk DescriptorFile", "vmdk", "conectix", "vpc");

    private final Process server;
    private final Path folder;

    private VirtualDisk(Process server, Path folder, BlockSource disk) {
        super(disk);
        this.server = server;
        this.folder = folder;
    }

    /**
     * Which container a file is, by its first bytes, or by its last 512 for one that begins as the disk itself does.
     *
     * @return the tools' name for it; empty where it is none
     */
    public static Optional<String> format(BlockSource file) throws IOException {
        for (long at : new long[]{0, file.sizeBytes() - SECTOR}) {
            ByteBuffer bytes = ByteBuffer.allocate((int) Math.max(0, Math.min(SECTOR, file.sizeBytes() - Math.max(0, at))));
            file.read(Math.max(0, at), bytes);
            String text = new String(bytes.array(), StandardCharsets.ISO_8859_1);
            Optional<String> known = BEGINNINGS.entrySet().stream().filter(each -> text.startsWith(each.getKey())).map(Map.Entry::getValue)
                .findFirst();
            if (known.isPresent()) {
                return known;
            }
        }
        return Optional.empty();
    }

    /**
     * One that somebody else made: it is refused where it names files outside its own folder, which would be read with this program's
     * rights.
     */
    public static VirtualDisk open(Path file, String format) throws IOException {
        Path own = file.toRealPath();
        for (String named : namedFiles(own, format)) {
            Path other = own.resolveSibling(named).normalize();
            if (named.contains(":") || !own.getParent().equals(other.getParent()) || Files.isSymbolicLink(other)) {
                throw Fault.of(Fault.Kind.FORBIDDEN, file.toString(), file.getFileName() + " reads its bytes from " + named
                    + ", which does not lie beside it. Convert it into one file of its own first, where it was made.").asException();
            }
        }
        return serve(own, format);
    }

    /** One that Granary made, whose other half is where Granary put it. */
    public static VirtualDisk ours(Path file) throws IOException {
        return serve(file, "qcow2");
    }

    /** Other files that its bytes come from, as it tells. */
    private static List<String> namedFiles(Path file, String format) throws IOException {
        SystemTool.Said said = SystemTool.run(List.of("qemu-img", "info", "--output=json", "-f", format, file.toString()), false, PATIENCE,
            INSTALL);
        if (said.exit() != 0) {
            throw cannot(file, "it is not whole, or of a kind that is not known");
        }
        List<String> out = new ArrayList<>();
        JsonNode about = new ObjectMapper().readTree(said.text());
        for (String key : List.of("backing-filename", "data-file")) {
            about.findValues(key).forEach(each -> out.add(each.asText()));
        }
        about.path("format-specific").path("data").path("extents").forEach(each -> out.add(each.path("filename").asText()));
        return out;
    }

    private static VirtualDisk serve(Path file, String format) throws IOException {
        Path folder = Files.createTempDirectory("granary-virtual-");
        Path socket = folder.resolve("disk");
        Path said = folder.resolve("said");
        Process server = null;
        try {
            server = new ProcessBuilder(SystemTool.find(SERVER, INSTALL), "--read-only", "--format=" + format, "--cache=writeback",
                "--socket=" + socket, "--", file.toString()).redirectErrorStream(true).redirectOutput(said.toFile()).start();
            Optional<NbdSource> disk = NbdSource.served(socket, file.getFileName().toString(), PATIENCE, server::isAlive);
            if (disk.isEmpty()) {
                throw cannot(file, Files.readString(said, StandardCharsets.UTF_8).strip());
            }
            return new VirtualDisk(server, folder, disk.get());
        } catch (IOException | RuntimeException failed) {
            if (server != null) {
                server.destroyForcibly();
            }
            Folders.delete(folder);
            throw failed;
        }
    }

    private static IOException cannot(Path file, String why) {
        return Fault.of(Fault.Kind.DAMAGED, file.toString(), "The virtual disk " + file.getFileName() + " cannot be read: " + why + ".")
            .asException();
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        source.read(offsetBytes, into);
    }

    @Override
    public void close() throws IOException {
        source.close();
        try {
            if (!server.waitFor(2, TimeUnit.SECONDS)) { // it ends with its last reader
                server.destroyForcibly();
            }
        } catch (InterruptedException stopped) {
            server.destroyForcibly();
            Thread.currentThread().interrupt();
        }
        Folders.delete(folder);
    }
}
