package app.granary.cli;

import app.granary.core.disk.BlockSource;
import app.granary.core.filesystem.FileEntry;
import app.granary.engine.files.DiskFiles;
import app.granary.engine.files.FilePlace;
import java.io.IOException;
import java.io.PrintWriter;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(name = "files", mixinStandardHelpOptions = true,
    description = "Shows the files in an image, or on a disk: its partitions, or what lies in a folder of one (2:/home/ada). Reads ext2, "
        + "ext3, ext4, NTFS, FAT and exFAT.")
final class FilesCommand implements Callable<Integer> {
    @Mixin
    LookedInto image;
    @Parameters(index = "1", arity = "0..1", paramLabel = "N:/PATH", description = "partition number, colon, path")
    String place;
    @Option(names = "--json", description = "print JSON")
    boolean json;
    @Spec
    CommandSpec spec;

    /** @param modifiedAt ISO 8601, UTC; an empty string for a partition */
    private record Line(String name, String kind, long bytes, String modifiedAt, String remark) {
        static Line of(FileEntry each) {
            return new Line(each.name(), each.kind().word(), each.bytes(), each.modifiedAt().toString(), each.unreadable());
        }

        static Line of(DiskFiles.Volume each) {
            return new Line(each.number() + ":", "partition", each.sizeBytes(), "", each.fileSystem() + (each.name().isBlank() ? ""
                : ", " + each.name()));
        }
    }

    @Override
    public Integer call() throws IOException {
        try (BlockSource source = image.open()) {
            DiskFiles disk = new DiskFiles(source);
            List<Line> lines = place == null ? disk.volumes().stream().map(Line::of).toList()
                : disk.list(FilePlace.parse(place)).stream().sorted(Comparator.comparing((FileEntry each) -> !each.isFolder())
                    .thenComparing(FileEntry::name)).map(Line::of).toList();
            print(spec.commandLine().getOut(), lines);
        }
        return 0;
    }

    private void print(PrintWriter out, List<Line> lines) throws IOException {
        if (!json) {
            for (Line each : lines) {
                out.printf("%-9s  %10s  %-20s  %s%s%n", each.kind, each.kind.equals("folder") ? "" : Printed.size(each.bytes),
                    each.modifiedAt, Printed.plain(each.name), each.remark.isEmpty() ? "" : "  (" + each.remark + ")");
            }
            out.flush();
            return;
        }
        Printed.json(out, fields -> {
            fields.writeArrayFieldStart("entries");
            for (Line each : lines) {
                fields.writeStartObject();
                fields.writeStringField("name", each.name);
                fields.writeStringField("kind", each.kind);
                fields.writeNumberField("bytes", each.bytes);
                fields.writeStringField("modifiedAt", each.modifiedAt);
                fields.writeStringField("remark", each.remark);
                fields.writeEndObject();
            }
            fields.writeEndArray();
        });
    }
}
