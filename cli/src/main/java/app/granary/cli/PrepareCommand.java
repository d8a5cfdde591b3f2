package app.granary.cli;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.target.Preparation;
import app.granary.engine.restore.DrivePreparation;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(name = "prepare", description = "Prepares a drive for images: a new table, and a file system on it. What it held is gone.",
    mixinStandardHelpOptions = true)
final class PrepareCommand implements Callable<Integer> {
    private static final int SECTOR = 512;

    @Mixin
    TargetArgument target;
    @Option(names = "--name", paramLabel = "LABEL", required = true, description = "its label: 1 to 11 letters, digits and hyphens")
    String name;
    @Option(names = "--file-system", paramLabel = "KIND", defaultValue = "exfat",
        description = "exfat, ntfs or ext4 (default: ${DEFAULT-VALUE})")
    Preparation.StoreFileSystem fileSystem;
    @Option(names = "--scheme", paramLabel = "TABLE", defaultValue = "gpt",
        description = "gpt, or mbr where an old BIOS has to start from it (default: ${DEFAULT-VALUE})")
    Preparation.Scheme scheme;
    @Option(names = "--rescue", paramLabel = "BYTES", defaultValue = "0",
        description = "length of a FAT32 partition in front for a rescue system; at least 64 MiB (default: none)")
    long rescueBytes;
    @Option(names = "--scratch", paramLabel = "FOLDER", defaultValue = "/tmp",
        description = "where the file system is made first, mostly as a hole (default: ${DEFAULT-VALUE})")
    Path scratch;
    @Mixin
    Output output;

    @Override
    public Integer call() throws IOException {
        target.require();
        int sectorBytes = target.sectorBytes(SECTOR);
        long bytes = target.bytes(0, sectorBytes);
        Preparation how = new Preparation(scheme, fileSystem, name, rescueBytes);
        PartitionTable table = target.write(bytes, bytes, sectorBytes, to -> {
            try (ProgressLine watch = output.watch()) {
                return DrivePreparation.run(how, bytes, sectorBytes, to, scratch, new SecureRandom(), watch);
            }
        });
        PrintWriter out = output.out();
        if (output.json()) {
            Printed.json(out, fields -> {
                fields.writeStringField("scheme", table.scheme());
                fields.writeArrayFieldStart("partitions");
                for (Partition each : table.partitions()) {
                    fields.writeStartObject();
                    fields.writeNumberField("number", each.number());
                    fields.writeNumberField("startBytes", each.startBytes());
                    fields.writeNumberField("sizeBytes", each.sizeBytes());
                    fields.writeEndObject();
                }
                fields.writeEndArray();
            });
        } else {
            Printed.row(out, "prepared", target.path() + ", " + Printed.size(bytes) + ", " + table.scheme());
            table.partitions().forEach(each -> Printed.row(out, "partition " + each.number(), Printed.size(each.sizeBytes())
                + (each.name().isEmpty() ? "" : ", \"" + each.name() + "\"")));
        }
        return 0;
    }
}
