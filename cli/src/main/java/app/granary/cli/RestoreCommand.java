package app.granary.cli;

import app.granary.core.fault.Fault;
import app.granary.engine.bag.Bag;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.Restore;
import app.granary.engine.site.BlockDevices;
import app.granary.engine.source.DeviceTarget;
import app.granary.engine.source.FileTarget;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(name = "restore", description = "Writes an image back into a new file, or onto a disk named again by its serial.", mixinStandardHelpOptions = true)
final class RestoreCommand implements Callable<Integer> {
    @Parameters(index = "0", paramLabel = "BAG", description = "the image's folder")
    Path bag;
    @Parameters(index = "1", paramLabel = "TARGET", description = "a new file, or a block device")
    Path target;
    @Option(names = "--overwrite-serial", paramLabel = "SERIAL", description = "serial number of the device to overwrite; everything on it goes")
    String serial;
    @Mixin
    PassphraseOption secret;
    @Option(names = "--json", description = "print JSON")
    boolean json;
    @Spec
    CommandSpec spec;

    @Override
    public Integer call() throws IOException {
        long began = System.nanoTime();
        Bag image = Bag.open(bag, secret.passphrase());
        boolean device = Files.exists(target) && !Files.isRegularFile(target) && !Files.isDirectory(target);
        if (device) {
            BlockDevices.requireOverwritable(target, serial == null ? "" : serial);
        } else if (serial != null) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, target.toString(), target + " is no device, so --overwrite-serial does not apply. Name the device, or leave the serial out.").asException();
        }
        long written = Restore.run(image, bytes -> device ? DeviceTarget.open(target, bytes) : FileTarget.create(target, bytes), Watch.NONE);
        double seconds = (System.nanoTime() - began) / 1e9;
        PrintWriter out = spec.commandLine().getOut();
        if (json) {
            Printed.json(out, fields -> {
                fields.writeNumberField("writtenBytes", written);
                fields.writeNumberField("seconds", seconds);
            });
        } else {
            Printed.row(out, "restored", Printed.size(written) + " to " + target + " in " + String.format("%.1f s", seconds));
        }
        return 0;
    }
}
