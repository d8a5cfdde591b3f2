package app.granary.cli;

import app.granary.core.destination.DestinationRules;
import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.image.BadStretch;
import app.granary.core.image.ImageName;
import app.granary.core.measure.Sizes;
import app.granary.engine.bag.Unfinished;
import app.granary.engine.capture.Capture;
import app.granary.engine.capture.CaptureRequest;
import app.granary.engine.capture.CaptureResult;
import app.granary.engine.capture.CarefulSource;
import app.granary.engine.codec.Codec;
import app.granary.engine.progress.Watch;
import app.granary.engine.sample.SizeSampler;
import app.granary.engine.host.BlockDevices;
import app.granary.engine.host.ImageWork;
import app.granary.engine.host.Storage;
import app.granary.engine.shell.ShellNote;
import app.granary.engine.shell.ShellPlan;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(name = "capture", description = "Makes an image of a disk, checks it by reading it back, and gives it its name.",
    mixinStandardHelpOptions = true)
final class CaptureCommand implements Callable<Integer> {
    @Mixin
    DiskArgument disk;
    @Parameters(index = "1", paramLabel = "FOLDER", description = "an existing folder on the destination")
    Path folder;
    @Mixin
    CodecOptions codec;
    @Mixin
    PlanOption plans;
    @Option(names = "--name", paramLabel = "NAME",
        description = "the image's name: letters, digits, dot, hyphen, underscore; needed without --plan")
    String name;
    @Option(names = "--split", paramLabel = "BYTES", description = "longest part in bytes, at least 65536 (default: one part)")
    Long split;
    @Mixin
    PassphraseOption secret;
    @Option(names = "--carry-on", description = "carry on an unfinished capture of that name, with what it was begun with")
    boolean carryOn;
    @Option(names = "--start-over", description = "discard an unfinished capture of that name first")
    boolean startOver;
    @Option(names = "--no-check", description = "do not read the image back before naming it")
    boolean noCheck;
    @Mixin
    NoteOptions notes;
    @Mixin
    Output output;
    @Spec
    CommandSpec spec;

    private static IOException badChoice(String sentence) {
        return Fault.of(Fault.Kind.BAD_CHOICE, "--plan", sentence).asException();
    }

    private ImageName imageName(Optional<ShellPlan> plan) throws IOException {
        if (name == null && (plan.isEmpty() || carryOn || startOver)) {
            throw new ParameterException(spec.commandLine(), plan.isEmpty() ? "Give the image a name with --name, or a plan with --plan."
                : "Say with --name which unfinished capture is meant.");
        }
        return ImageName.parse(name == null ? plan.get().imageName(Clock.systemUTC().instant()) : name);
    }

    private Storage storage(Optional<ShellPlan> plan, BlockSource source) throws IOException {
        if (plan.isEmpty()) {
            return new Storage(codec.codec(), codec.level(), split == null ? OptionalLong.empty() : OptionalLong.of(split),
                disk.choice(source), "", secret.passphrase());
        }
        if (codec.given() || split != null || disk.chosen()) {
            throw badChoice("The plan says how the image is stored and what of the disk is read. Leave that out, or the plan.");
        }
        if (plan.get().encrypted() && secret.passphrase().isNone()) {
            throw badChoice("The plan's images are encrypted. Name a file with the passphrase by --passphrase-file.");
        }
        return plan.get().storage().with(secret.passphrase());
    }

    @Override
    public Integer call() throws IOException {
        long began = System.nanoTime();
        Optional<ShellPlan> plan = plans.plan();
        ImageName imageName = imageName(plan);
        try (BlockSource source = disk.open(); BlockDevices.Held held = hold(source)) {
            BlockDevices.Identified device = BlockDevices.identify(disk.disk, source);
            if (plan.isPresent()) {
                plan.get().requireDisk(device.identity());
            }
            Storage storage = storage(plan, source);
            if (startOver && Files.isDirectory(folder) && Unfinished.discard(folder, imageName)) {
                output.err().println("What lay there of " + name + " without a name was discarded.");
            }
            CaptureResult result;
            try (ProgressLine watch = output.watch()) {
                result = carryOn
                    ? ImageWork.carryOn(source, device.identity(), folder, name, secret.passphrase(), Clock.systemDefaultZone(), watch)
                    : begin(source, imageName, storage, device.identity(), watch);
            }
            double seconds = (System.nanoTime() - began) / 1e9;
            result.check().ifPresent(check -> notes.note(output.err(), ShellNote.Did.CAPTURE, result.bag(),
                device.identity(), check, seconds));
            print(result, seconds);
        }
        return 0;
    }

    /** The disk; or all of it but the partition the image goes to, which is left out of it. */
    private BlockDevices.Held hold(BlockSource source) throws IOException {
        BlockDevices.Identified device = BlockDevices.identify(disk.disk, source);
        if (!device.holds(folder)) {
            return new BlockDevices.Held(List.of(BlockDevices.hold(disk.disk)));
        }
        OptionalInt own = device.partitionOf(folder);
        if (own.isEmpty() || !disk.choice(source).without().contains(own.getAsInt())) {
            throw Fault.of(Fault.Kind.FORBIDDEN, folder.toString(), folder + " lies on " + disk.disk
                + ", the disk to be imaged; an image there would die with it. Choose another drive"
                + (own.isPresent() ? ", or leave that partition out with --without " + own.getAsInt() + " for a quick roll-back image."
                    : "."))
                .asException();
        }
        output.err().println(DestinationRules.ROLL_BACK);
        return BlockDevices.holdBeside(disk.disk, own.getAsInt(), disk.disk.toString());
    }

    private CaptureResult begin(BlockSource source, ImageName imageName, Storage storage, DiskIdentity identity, Watch watch)
        throws IOException {
        BlockSource careful = new CarefulSource(source);
        DiskSurvey survey = DiskSurvey.of(careful, storage.choice());
        requireRoom(careful, survey, storage);
        return Capture.run(source, survey,
            new CaptureRequest(imageName, storage.codec(), storage.level(), storage.splitBytes(), storage.passphrase(), identity,
                notes.comment.isEmpty() ? storage.comment() : notes.comment, !noCheck),
            folder, Clock.systemDefaultZone(), watch);
    }

    /** Only when the used bytes alone would not fit is the size worth an estimate before starting. */
    private void requireRoom(BlockSource source, DiskSurvey survey, Storage storage) throws IOException {
        if (!Files.isDirectory(folder)) {
            return; // refused with its own sentence when the bag is begun
        }
        long free = Files.getFileStore(folder).getUsableSpace();
        long worst = storage.codec() == Codec.NONE ? survey.sizeBytes() : survey.usedBytes();
        if (free > worst + worst / 50) {
            return;
        }
        SizeEstimate estimate = SizeSampler.estimate(source, survey, storage.codec(), storage.level(), 1, Watch.NONE);
        if (estimate.highBytes() > free) {
            throw Fault.of(Fault.Kind.NO_ROOM, folder.toString(), folder + " has " + Sizes.decimal(free) + " free, and the image may need "
                + Sizes.decimal(estimate.highBytes()) + ". Nothing was written. Make room, compress more, or choose another destination.")
                .asException();
        }
    }

    private void print(CaptureResult result, double seconds) throws IOException {
        PrintWriter out = output.out();
        if (output.json()) {
            Printed.json(out, fields -> {
                fields.writeStringField("bag", result.bag().toString());
                fields.writeNumberField("storedBytes", result.storedBytes());
                fields.writeNumberField("rawBytes", result.rawBytes());
                fields.writeNumberField("usedBytes", result.usedBytes());
                fields.writeNumberField("badSectorBytes", badBytes(result));
                fields.writeNumberField("seconds", seconds);
                fields.writeStringField("checked", result.check().map(check -> check.level().word()).orElse("none"));
            });
        } else {
            Printed.row(out, "image", result.bag().toString());
            Printed.row(out, "stored", Printed.size(result.storedBytes()));
            Printed.row(out, "of", Printed.size(result.usedBytes()) + " read, " + Printed.size(result.rawBytes()) + " in all");
            if (!result.badSectors().isEmpty()) {
                Printed.row(out, "unreadable", Printed.size(badBytes(result)) + " in " + result.badSectors().size()
                    + " places, stored as zeros and listed in data/image.json");
            }
            Printed.row(out, "took", String.format("%.1f s", seconds));
            Printed.row(out, "checked",
                result.check().isPresent() ? "every stored byte and every frame, read back" : "not yet; run granary verify");
        }
    }

    private static long badBytes(CaptureResult result) {
        return result.badSectors().stream().mapToLong(BadStretch::sizeBytes).sum();
    }
}
