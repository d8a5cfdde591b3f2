package app.granary.cli;

import app.granary.core.disk.BlockSource;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageSource;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** What every command that reads a disk takes. */
final class DiskArgument {
    @Parameters(index = "0", paramLabel = "DISK", description = "a raw disk image file, a block device, or an image's folder")
    Path disk;

    @Option(names = "--all-blocks", description = "read every block, free ones too")
    private boolean allBlocks;

    @Option(names = "--keep-swap", description = "keep page files, hibernation files and swap instead of storing them as zeros")
    private boolean keepSwap;

    @Option(names = "--sector-bytes", paramLabel = "N",
        description = "logical sector of a raw file, 512 or 4096; a GPT tells it itself, an MBR does not")
    private Integer sectorBytes;

    SurveyChoice choice() {
        return allBlocks ? SurveyChoice.ALL_BLOCKS : new SurveyChoice(false, keepSwap);
    }

    BlockSource open() throws IOException {
        if (Files.isDirectory(disk) && Files.exists(disk.resolve("bagit.txt"))) {
            Bag bag = Bag.open(disk);
            return new ImageSource(bag, bag.content());
        }
        RawSource source = RawSource.open(disk);
        if (sectorBytes == null) {
            return source;
        }
        if (sectorBytes != 512 && sectorBytes != 4096) {
            source.close();
            throw Fault
                .of(Fault.Kind.BAD_CHOICE, disk.toString(), "Sectors of " + sectorBytes + " bytes are not supported. Use 512 or 4096.")
                .asException();
        }
        return source.withSectorBytes(sectorBytes);
    }
}
