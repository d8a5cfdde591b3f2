package app.granary.engine.elsewhere;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionTables;
import app.granary.core.filesystem.FileSystems;
import app.granary.core.image.DiskInside;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/** The first bytes of a disk, read as if they were the disk: what lies behind them reads as zeros. */
final class DiskStart implements BlockSource {
    /** Holds both tables, and the superblock of every file system that is told apart. */
    static final int BYTES = 1 << 20;
    /** More than any disk has; used while a length is not known. */
    private static final long ANY = 1L << 60;

    private final String name;
    private final byte[] head;
    private final long sizeBytes;
    private final int sectorBytes;
    private boolean readBeyond;

    private DiskStart(String name, byte[] head, long sizeBytes, int sectorBytes) {
        this.name = name;
        this.head = head;
        this.sizeBytes = sizeBytes;
        this.sectorBytes = sectorBytes;
    }

    /**
     * What a disk holds of which only the start is at hand.
     *
     * @param head      up to {@link #BYTES} from the disk's first byte on
     * @param sizeBytes the disk's length where it is known
     * @return empty when this is no start of a disk Granary knows
     */
    static Optional<DiskInside> look(String name, byte[] head, OptionalLong sizeBytes) throws IOException {
        OptionalLong size = sizeBytes.isPresent() ? sizeBytes : PartitionTables.gptDiskBytes(Bytes.of(head));
        DiskStart any = new DiskStart(name, head, size.orElse(ANY), 512);
        DiskStart start = new DiskStart(name, head, size.orElse(ANY), head.length < 512 ? 512 : PartitionTables.sectorBytes(any));
        Optional<DiskInside> inside = head.length < 512 ? Optional.empty() : look(start, size);
        boolean further = start.readBeyond && inside.isPresent() && inside.get().partitions().isEmpty()
            && inside.get().scheme().equals("mbr");
        return further ? Optional.of(
            new DiskInside(size, "mbr", DiskInside.idOf(new PartitionTable.Mbr(Bytes.of(head).u32(440), List.of())), List.of(), "",
                "It has logical partitions; where they lie is told by what is further in."))
            : inside;
    }

    /** What a disk holds all of which is at hand. */
    static Optional<DiskInside> look(BlockSource disk) throws IOException {
        return look(disk, OptionalLong.of(disk.sizeBytes()));
    }

    private static Optional<DiskInside> look(BlockSource disk, OptionalLong size) throws IOException {
        PartitionTable table = PartitionTables.read(disk);
        if (table instanceof PartitionTable.Damaged damaged) {
            return Optional.of(new DiskInside(size, table.scheme(), "", List.of(), "", damaged.fault().sentence()));
        }
        if (table instanceof PartitionTable.Absent) {
            return fileSystem(disk, size);
        }
        boolean any = !table.partitions().isEmpty() || table.scheme().equals("gpt");
        return any ? Optional.of(new DiskInside(size, table.scheme(), DiskInside.idOf(table), table.partitions(), "", ""))
            : Optional.empty();
    }

    private static Optional<DiskInside> fileSystem(BlockSource disk, OptionalLong size) throws IOException {
        String kind = FileSystems.kind(disk, 0, disk.sizeBytes());
        return kind.equals(FileSystems.UNKNOWN) ? Optional.empty() : Optional.of(new DiskInside(size, "none", "", List.of(), "",
            "It begins with a file system (" + kind
                + ") and no partition table: an image of one partition, or of a disk without a table."));
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public long sizeBytes() {
        return sizeBytes;
    }

    @Override
    public int sectorBytes() {
        return sectorBytes;
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) {
        long there = Math.min(into.remaining(), Math.max(0, head.length - offsetBytes));
        if (there > 0) {
            into.put(head, (int) offsetBytes, (int) there);
        }
        readBeyond |= into.hasRemaining();
        while (into.hasRemaining()) {
            into.put((byte) 0);
        }
    }
}
