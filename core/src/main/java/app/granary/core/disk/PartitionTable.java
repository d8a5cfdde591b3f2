package app.granary.core.disk;

import app.granary.core.fault.Fault;
import java.util.List;

/** What reading a disk's partition table came to: one of four cases. */
public sealed interface PartitionTable {
    /** {@code "gpt"}, {@code "mbr"} or {@code "none"}; the scheme a damaged table claims to be. */
    String scheme();

    /** In order of number; empty where there is none. */
    List<Partition> partitions();

    /** Sentences on what is odd about a table that could be read all the same; usually empty. */
    default List<String> remarks() {
        return List.of();
    }

    /**
     * @param diskGuid       the disk's GUID in upper case
     * @param firstUsableLba first sector partitions may use
     * @param lastUsableLba  last sector partitions may use, inclusive as in the header
     * @param entryCount     how many entries the table has room for, usually 128
     */
    record Gpt(String diskGuid, long firstUsableLba, long lastUsableLba, int entryCount, List<Partition> partitions, List<String> remarks)
        implements
            PartitionTable {
        public Gpt {
            partitions = List.copyOf(partitions);
            remarks = List.copyOf(remarks);
        }

        @Override
        public String scheme() {
            return "gpt";
        }
    }

    /** @param diskSignature the four bytes at offset 440, as a number */
    record Mbr(long diskSignature, List<Partition> partitions) implements PartitionTable {
        public Mbr {
            partitions = List.copyOf(partitions);
        }

        @Override
        public String scheme() {
            return "mbr";
        }
    }

    /** No table: blank, or a file system straight on the disk. */
    record Absent() implements PartitionTable {
        @Override
        public String scheme() {
            return "none";
        }

        @Override
        public List<Partition> partitions() {
            return List.of();
        }
    }

    /** A table is there and cannot be trusted. */
    record Damaged(String scheme, Fault fault) implements PartitionTable {
        @Override
        public List<Partition> partitions() {
            return List.of();
        }
    }
}
