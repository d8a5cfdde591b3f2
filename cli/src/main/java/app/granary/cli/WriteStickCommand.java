package app.granary.cli;

import app.granary.core.disk.BlockSource;
import app.granary.engine.restore.DiskCopy;
import app.granary.engine.restore.RestoreOutcome;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(name = "write-stick", description = "Writes a file such as the ISO of a rescue system onto a stick, byte for byte.",
    mixinStandardHelpOptions = true)
final class WriteStickCommand implements Callable<Integer> {
    @Parameters(index = "0", paramLabel = "FILE", description = "what is written")
    Path file;
    @Mixin
    TargetArgument target;
    @Mixin
    Output output;

    @Override
    public Integer call() throws IOException {
        target.require();
        long began = System.nanoTime();
        try (BlockSource source = RawSource.open(file)) {
            int sectorBytes = target.sectorBytes(source.sectorBytes());
            long whole = (source.sizeBytes() + sectorBytes - 1) / sectorBytes * sectorBytes;
            long bytes = target.bytes(whole, sectorBytes);
            RestoreOutcome outcome = target.write(bytes, source.sizeBytes(), sectorBytes, to -> {
                try (ProgressLine watch = output.watch()) {
                    return DiskCopy.bytes(source, bytes, to, true, watch);
                }
            });
            Written.print(output, target.path(), outcome, (System.nanoTime() - began) / 1e9);
            return outcome.differences().isEmpty() ? 0 : 1;
        }
    }
}
