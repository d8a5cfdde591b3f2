package app.granary.core.inventory;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.measure.Sizes;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * A disk as a computer reports it.
 *
 * @param identity    model, serial, size; the serial is an empty string where a bridge hides it
 * @param name        what the computer calls it, for people only: it changes
 * @param bus         how it is attached, or an empty string
 * @param sectorBytes logical sector, 512 or 4096
 * @param scheme      {@code "gpt"}, {@code "mbr"}, {@code "none"}, or an empty string where not told
 * @param line        line of the report it begins on, from 1; 0 where there are no lines
 */
public record DiskReport(DiskIdentity identity, String name, String bus, int sectorBytes, String scheme, List<PartitionReport> partitions,
    int line) {
    public DiskReport {
        partitions = List.copyOf(partitions);
    }

    /** Sum of what its partitions tell; empty when none tells. */
    public OptionalLong usedBytes() {
        boolean told = partitions.stream().anyMatch(p -> p.usedBytes().isPresent());
        return told ? OptionalLong.of(partitions.stream().mapToLong(p -> p.usedBytes().orElse(0)).sum()) : OptionalLong.empty();
    }

    Optional<PartitionReport> partition(int number) {
        return partitions.stream().filter(p -> p.number() == number).findFirst();
    }

    /** Word for it in sentences: model, serial and size, never a path. */
    public String label() {
        String model = identity.model().isEmpty() ? "disk" : identity.model();
        return model + (identity.serial().isEmpty() ? " without a serial" : " " + identity.serial()) + ", "
            + Sizes.decimal(identity.sizeBytes());
    }
}
