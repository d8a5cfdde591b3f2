package app.granary.cli;

import app.granary.core.disk.BlockSource;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageSource;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Path;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** An image, or a raw file or device, whose files are looked at. */
final class LookedInto {
    @Parameters(index = "0", paramLabel = "IMAGE", description = "an image's folder; a raw file or a device too")
    private Path image;
    @Mixin
    private PassphraseOption secret;

    /** @throws app.granary.core.fault.FaultException when it is neither, or wants another passphrase */
    BlockSource open() throws IOException {
        return Bag.isBag(image) ? ImageSource.forMany(Bag.open(image, secret.passphrase())) : RawSource.open(image);
    }
}
