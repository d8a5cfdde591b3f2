package app.granary.cli;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.PartitionTables;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageSource;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;
import java.util.TreeSet;
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

    @Option(names = "--without", paramLabel = "NUMBER", split = ",",
        description = "partitions that are not read; their place is kept, as zeros")
    private Set<Integer> without = Set.of();

    @Option(names = "--only", paramLabel = "NUMBER", split = ",", description = "the only partitions that are read")
    private Set<Integer> only = Set.of();

    @Option(names = "--sector-bytes", paramLabel = "N",
        description = "logical sector of a raw file, 512 or 4096; a GPT tells it itself, an MBR does not")
    private Integer sectorBytes;

    /** @throws app.granary.core.fault.FaultException when a partition is named that is not there */
    SurveyChoice choice(BlockSource source) throws IOException {
        boolean swap = keepSwap || allBlocks;
        if (without.isEmpty() && only.isEmpty()) {
            return new SurveyChoice(allBlocks, swap);
        }
        Set<Integer> there = new TreeSet<>();
        PartitionTables.read(source).partitions().stream().filter(each -> !each.container()).forEach(each -> there.add(each.number()));
        Set<Integer> named = new TreeSet<>(without);
        named.addAll(only);
        named.removeAll(there);
        if (!named.isEmpty() || !without.isEmpty() && !only.isEmpty()) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, disk.toString(), named.isEmpty()
                ? "Say either which partitions are read, with --only, or which are not, with --without."
                : disk + " has no partition " + named.iterator().next() + ", but " + there
                + ". ./granary inspect shows them.").asException();
        }
        Set<Integer> out = new TreeSet<>(only.isEmpty() ? without : there);
        out.removeAll(only);
        return new SurveyChoice(allBlocks, swap, out);
    }

    /** Whether a person said what of it is read. */
    boolean chosen() {
        return allBlocks || keepSwap || !without.isEmpty() || !only.isEmpty();
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
