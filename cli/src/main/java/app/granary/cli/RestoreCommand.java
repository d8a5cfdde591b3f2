package app.granary.cli;

import app.granary.core.disk.PartitionTables;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.restore.Restore;
import app.granary.engine.restore.RestoreOutcome;
import app.granary.engine.restore.RestoreRequest;
import app.granary.engine.restore.RestoreTarget;
import app.granary.engine.host.BlockDevices;
import app.granary.engine.source.DeviceHold;
import app.granary.engine.source.RawSource;
import app.granary.engine.source.Sysfs;
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

@Command(name = "restore", description = "Writes an image back into a new file, or onto a disk named again by its serial.",
    mixinStandardHelpOptions = true)
final class RestoreCommand implements Callable<Integer> {
    @Parameters(index = "0", paramLabel = "BAG", description = "the image's folder")
    Path bag;
    @Parameters(index = "1", paramLabel = "TARGET", description = "a new file, or a block device")
    Path target;
    @Option(names = "--overwrite-serial", paramLabel = "SERIAL",
        description = "serial number of the device to overwrite; everything on it goes")
    String serial;
    @Option(names = "--target-size", paramLabel = "BYTES", description = "length of the new file (default: that of the disk)")
    Long targetSize;
    @Mixin
    LayoutOptions layout;
    @Option(names = "--zero-unused", description = "write zeros where nothing is in use (default: a device keeps what it has there)")
    boolean zeroUnused;
    @Option(names = "--no-compare", description = "do not read the target back")
    boolean noCompare;
    @Option(names = "--accept-damage", description = "pass over damaged parts of the image as zeros, and tell which")
    boolean acceptDamage;
    @Mixin
    PassphraseOption secret;
    @Mixin
    ProgressOption progress;
    @Option(names = "--json", description = "print JSON")
    boolean json;
    @Spec
    CommandSpec spec;

    /** A device has a table of its own, by which partitions the image does not hold can stay. */
    private LayoutTarget into(boolean device, long bytes, int sectorBytes) throws IOException {
        if (!device) {
            return LayoutTarget.blank(bytes, sectorBytes, Firmware.UNKNOWN);
        }
        try (RawSource there = RawSource.open(target)) {
            return new LayoutTarget(bytes, sectorBytes, Firmware.UNKNOWN, PartitionTables.read(there), RestoreLayout.ALIGN);
        }
    }

    /** A device is held until it is written, and looked at once more before its first byte: planning the layout took a moment. */
    private RestoreOutcome write(Bag image, ImageJson.Content content, RestoreRequest request, RestoreTarget to,
        boolean device) throws IOException {
        if (!device) {
            return watched(image, content, request, to);
        }
        BlockDevices.requireOverwritable(target, serial == null ? "" : serial);
        try (DeviceHold held = BlockDevices.hold(target)) {
            return watched(image, content, request, to);
        }
    }

    private RestoreOutcome watched(Bag image, ImageJson.Content content, RestoreRequest request, RestoreTarget to) throws IOException {
        try (ProgressLine watch = progress.watch(spec.commandLine().getErr(), json)) {
            return Restore.run(image, content, request, to, watch);
        }
    }

    @Override
    public Integer call() throws IOException {
        long began = System.nanoTime();
        Bag image = Bag.open(bag, secret.passphrase());
        boolean device = Files.exists(target) && !Files.isRegularFile(target) && !Files.isDirectory(target);
        if (device) {
            BlockDevices.requireOverwritable(target, serial == null ? "" : serial);
        } else if (serial != null) {
            throw Fault
                .of(Fault.Kind.BAD_CHOICE, target.toString(),
                    target + " is no device, so --overwrite-serial does not apply. Name the device, or leave the serial out.")
                .asException();
        }
        ImageJson.Content content = image.content();
        image.requireOpens(content.description());
        DiskSurvey survey = Restore.survey(image, content);
        long bytes = targetBytes(device, content);
        int sectorBytes = device ? Sysfs.sectorBytes(target) : survey.sectorBytes();
        RestoreLayout planned = RestoreLayout.of(survey, into(device, bytes, sectorBytes), layout.choice());
        RestoreRequest request = RestoreRequest.of(survey, planned).comparing(!noCompare).zeroing(zeroUnused).acceptingDamage(acceptDamage);
        RestoreTarget to = device ? RestoreTarget.device(target, planned.partitionBytes(), sectorBytes)
            : RestoreTarget.file(target, bytes, sectorBytes);
        RestoreOutcome outcome = write(image, content, request, to, device);
        double seconds = (System.nanoTime() - began) / 1e9;
        PrintWriter out = spec.commandLine().getOut();
        if (json) {
            Printed.json(out, fields -> {
                fields.writeNumberField("targetBytes", outcome.targetBytes());
                fields.writeNumberField("writtenBytes", outcome.writtenBytes());
                fields.writeNumberField("unallocatedBytes", planned.unallocatedBytes());
                fields.writeBooleanField("compared", outcome.compared());
                fields.writeNumberField("differences", outcome.differences().size());
                fields.writeNumberField("passedOver", outcome.passedOver().size());
                fields.writeNumberField("seconds", seconds);
            });
        } else {
            print(out, planned, outcome, seconds);
        }
        return outcome.differences().isEmpty() ? 0 : 1;
    }

    private void print(PrintWriter out, RestoreLayout planned, RestoreOutcome outcome, double seconds) {
        Printed.row(out, "restored", Printed.size(outcome.targetBytes()) + " to " + target + " in " + String.format("%.1f s", seconds));
        Printed.row(out, "compared",
            !outcome.compared() ? "no" : outcome.differences().isEmpty() ? "yes, and equal" : outcome.differences().get(0).message());
        Printed.row(out, "unallocated", Printed.size(planned.unallocatedBytes()));
        planned.remarks().forEach(each -> Printed.row(out, "remark", each));
        outcome.passedOver().forEach(each -> Printed.row(out, "damage", each.message()));
        planned.steps().forEach(each -> Printed.row(out, "then", each.sentence() + (each.command().isEmpty() ? "" : " " + each.command())));
    }

    private long targetBytes(boolean device, ImageJson.Content content) throws IOException {
        if (device) {
            try (RawSource source = RawSource.open(target)) {
                return source.sizeBytes();
            }
        }
        long bytes = targetSize == null ? content.description().disk().sizeBytes() : targetSize;
        if (bytes <= 0 || bytes % content.description().sectorBytes() != 0) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, target.toString(),
                bytes + " bytes is no length of a disk: it must be a whole number of sectors of " + content.description().sectorBytes()
                    + " bytes.")
                .asException();
        }
        return bytes;
    }
}
