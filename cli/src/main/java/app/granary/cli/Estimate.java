package app.granary.cli;

import app.granary.core.disk.BlockSource;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.engine.sample.SizeSampler;
import java.io.IOException;
import java.io.PrintWriter;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(name = "estimate", description = "Says how big an image of a disk would be, from a random sample of its used chunks.",
    mixinStandardHelpOptions = true)
final class Estimate implements Callable<Integer> {
    @Mixin
    DiskArgument disk;
    @Mixin
    CodecOptions codec;
    @Option(names = "--seed", paramLabel = "N", defaultValue = "1", description = "which chunks are drawn (default: ${DEFAULT-VALUE})")
    long seed;
    @Mixin
    Output output;

    @Override
    public Integer call() throws IOException {
        try (BlockSource source = disk.open(); ProgressLine watch = output.watch()) {
            SizeEstimate estimate = SizeSampler.estimate(source, DiskSurvey.of(source, disk.choice(source)), codec.codec(), codec.level(),
                seed,
                watch);
            watch.close();
            PrintWriter out = output.out();
            if (output.json()) {
                Printed.json(out, fields -> {
                    fields.writeNumberField("usedBytes", estimate.usedBytes());
                    fields.writeNumberField("sampledBytes", estimate.sampledBytes());
                    fields.writeNumberField("lowBytes", estimate.lowBytes());
                    fields.writeNumberField("likelyBytes", estimate.likelyBytes());
                    fields.writeNumberField("highBytes", estimate.highBytes());
                    fields.writeStringField("basis", estimate.basis().word());
                });
            } else {
                Printed.row(out, "to read", Printed.size(estimate.usedBytes()));
                Printed.row(out, "sampled", Printed.size(estimate.sampledBytes()));
                Printed.row(out, "likely", Printed.size(estimate.likelyBytes()));
                Printed.row(out, "between",
                    Printed.size(estimate.lowBytes()) + " and " + Printed.size(estimate.highBytes()) + ", nine times in ten");
                Printed.row(out, "basis", estimate.basis().word());
            }
        }
        return 0;
    }
}
