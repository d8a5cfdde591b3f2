package app.granary.agent;

import app.granary.core.disk.Partition;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.core.inventory.ComputerFacts;
import app.granary.engine.host.Host;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import app.granary.engine.host.MachineHost;
import app.granary.engine.source.Folders;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Locale;

/** This computer: the same host an office has, with nothing kept beyond this start of it. */
final class Machine implements AutoCloseable {
    private static final ObjectMapper JSON = new ObjectMapper();

    private final String name;
    private final Host host;
    private final Path scratch;

    private Machine(String name, Host host, Path scratch) {
        this.name = name;
        this.host = host;
        this.scratch = scratch;
    }

    /** @param disks raw files that stand for disks, besides the computer's own */
    static Machine of(String name, List<Path> disks) throws IOException {
        Path scratch = Files.createTempDirectory("granary-agent-");
        Path files = Files.createDirectories(scratch.resolve("disks"));
        for (Path disk : disks) {
            if (!Files.isRegularFile(disk)) {
                Folders.delete(scratch);
                throw Fault.of(Fault.Kind.NOT_RECOGNISED, disk.toString(), disk + " is no file. Name a raw disk image file after --disk.")
                    .asException();
            }
            Files.createSymbolicLink(files.resolve(disk.getFileName().toString()), disk.toRealPath());
        }
        String called = name.isBlank() ? hostName() : name.strip();
        return new Machine(called, new MachineHost(called, files, scratch.resolve("images"), scratch.resolve("scratch"),
            Clock.systemDefaultZone()), scratch);
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

    /** What it is and has, in the inventory's own format; a disk that cannot be read is told without its partitions. */
    ObjectNode report() throws IOException {
        HostComputer computer = host.devices().computers().get(0);
        ComputerFacts facts = computer.facts();
        ObjectNode out = JSON.createObjectNode().put("format", "granary-inventory").put("version", 1);
        ObjectNode told = out.putArray("computers").addObject().put("name", name).put("maker", facts.maker()).put("model", facts.model())
            .put("firmware", facts.firmware().word()).put("operatingSystem", facts.operatingSystem());
        facts.secureBoot().ifPresent(on -> told.put("secureBoot", on));
        ArrayNode disks = told.putArray("disks");
        for (HostDisk disk : computer.disks()) {
            disk(disks.addObject(), disk);
        }
        return out;
    }

    private void disk(ObjectNode out, HostDisk disk) {
        out.put("name", disk.name()).put("model", disk.identity().model()).put("serial", disk.identity().serial())
            .put("sizeBytes", disk.identity().sizeBytes()).put("bus", disk.bus());
        try {
            DiskSurvey survey = host.devices().survey(disk.id(), SurveyChoice.USED);
            out.put("sectorBytes", survey.sectorBytes()).put("scheme", survey.table().scheme().toLowerCase(Locale.ROOT));
            ArrayNode partitions = out.putArray("partitions");
            survey.partitions().stream().filter(each -> !each.partition().container()).forEach(each -> partition(partitions.addObject(),
                each));
        } catch (IOException unreadable) {
            out.putArray("partitions");
        }
    }

    private static void partition(ObjectNode out, SurveyedPartition each) {
        Partition partition = each.partition();
        out.put("number", partition.number()).put("startBytes", partition.startBytes()).put("sizeBytes", partition.sizeBytes())
            .put("name", partition.name()).put("fileSystem", each.fileSystem().kind());
        each.fileSystem().usedBytes().ifPresent(used -> out.put("usedBytes", used));
    }

    @Override
    public void close() throws IOException {
        Folders.delete(scratch);
    }
}
