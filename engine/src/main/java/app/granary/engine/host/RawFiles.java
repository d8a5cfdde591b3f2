package app.granary.engine.host;

import app.granary.core.fault.Fault;
import app.granary.core.image.ImageName;
import app.granary.core.rescue.BootImage;
import app.granary.engine.copy.StickImage;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.DeviceHold;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
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
            return entries.filter(Files::isRegularFile)
                .filter(each -> !each.toString().endsWith(".log") && !each.toString().endsWith(ImageName.PARTIAL))
                .sorted().toList();
        }
    }

    /** Those that can be written onto a stick, and why the others cannot. */
    List<Overwriting.RawFile> described() throws IOException {
        List<Overwriting.RawFile> out = new ArrayList<>();
        List<Path> files = all();
        List<Lsblk.Device> devices = files.isEmpty() ? List.of() : Lsblk.devices();
        for (Path file : files) {
            try (RawSource source = RawSource.open(file)) {
                String store = Files.getFileStore(file).name();
                List<String> serials = devices.stream().filter(each -> each.has(store)).map(Lsblk.Device::serialOrAttachment)
                    .toList();
                out.add(new Overwriting.RawFile(file.getFileName().toString(), file.getFileName().toString(), Files.size(file),
                    file.getParent().toString(), serials, BootImage.read(source)));
            }
        }
        return out;
    }

    /**
     * Keeps a device byte for byte, which nobody else has meanwhile.
     *
     * @param device what is read
     * @param called as people know it
     * @param name   of the file
     */
    StickImage keep(Path device, String called, String name, Watch watch) throws IOException {
        Files.createDirectories(folder);
        try (DeviceHold held = BlockDevices.hold(device, called); RawSource source = RawSource.open(device)) {
            return StickImage.keep(source, folder, name, watch);
        }
    }

    /** By what lies there, so that no name becomes a path. */
    Path named(String id) throws IOException {
        return all().stream().filter(each -> each.getFileName().toString().equals(id)).findFirst()
            .orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED, id, "There is no file " + id + " in " + folder
                + " any more. Put it there again.").asException());
    }
}
