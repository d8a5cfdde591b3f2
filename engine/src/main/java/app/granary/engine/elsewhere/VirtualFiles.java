package app.granary.engine.elsewhere;

import app.granary.core.fault.FaultException;
import app.granary.core.image.DiskInside;
import app.granary.engine.nbd.VirtualDisk;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/** Finds disks of virtual computers. */
final class VirtualFiles {
    private static final DiskInside NOTHING = new DiskInside(OptionalLong.empty(), "none", "", List.of(), "", "");

    private VirtualFiles() {
    }

    /** @return the disk in a file; empty where it is none of the containers that are known */
    static Optional<ElsewhereImage> look(Path folder, List<ElsewhereFile> files) throws IOException {
        Path file = folder.resolve(files.get(0).name());
        Optional<String> format;
        try (RawSource bytes = RawSource.open(file)) {
            format = files.size() == 1 ? VirtualDisk.format(bytes) : Optional.empty();
        } catch (IOException unreadable) {
            return Optional.empty();
        }
        if (format.isEmpty()) {
            return Optional.empty();
        }
        DiskInside inside = NOTHING;
        String trouble = "";
        try (VirtualDisk disk = VirtualDisk.open(file, format.get())) {
            inside = DiskStart.look(disk).orElse(new DiskInside(OptionalLong.of(disk.sizeBytes()), "none", "", List.of(), "",
                "Nothing that is known begins in it."));
        } catch (FaultException cannot) {
            trouble = cannot.fault().sentence();
        }
        return Optional.of(new ElsewhereImage("", files.get(0).name(), ElsewhereImage.Kind.VIRTUAL, files, "", "", inside,
            Files.getLastModifiedTime(file).toInstant(), trouble));
    }
}
