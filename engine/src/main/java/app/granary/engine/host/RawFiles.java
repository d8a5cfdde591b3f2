package app.granary.engine.host;

import app.granary.core.fault.Fault;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;

/** A folder of files that stand for disks, or that can be written onto sticks; it need not be there. Logs beside them are none. */
public record RawFiles(Path folder) {
    /** In order of name. */
    List<Path> all() throws IOException {
        if (!Files.isDirectory(folder)) {
            return List.of();
        }
        try (Stream<Path> entries = Files.list(folder)) {
            return entries.filter(Files::isRegularFile).filter(each -> !each.getFileName().toString().endsWith(".log")).sorted().toList();
        }
    }

    /** By what lies there, so that no name becomes a path. */
    Path named(String id) throws IOException {
        return all().stream().filter(each -> each.getFileName().toString().equals(id)).findFirst()
            .orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED, id, "There is no file " + id + " in " + folder
                + " any more. Put it there again.").asException());
    }
}
