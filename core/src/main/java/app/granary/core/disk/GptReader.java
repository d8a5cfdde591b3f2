package app.granary.core.disk;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/**
 * A GUID partition table from its two copies (UEFI Specification 2.10, section 5.3.2): the primary header in sector 1, the backup in the
 * last one. Where the primary cannot be trusted the backup is used, and said so.
 */
final class GptReader {
    private final BlockSource source;
    private final Bytes firstSector;
    private final long lastLba;

    GptReader(BlockSource source, Bytes firstSector) {
        this.source = source;
        this.firstSector = firstSector;
        this.lastLba = source.sizeBytes() / source.sectorBytes() - 1;
    }

    PartitionTable read() throws IOException {
        if (lastLba < 2) {
            return new PartitionTable.Damaged("gpt", Unsound.at(source, source.sectorBytes(), "a header", "the end of the disk",
                "the disk ends before its GPT header").fault());
        }
        try {
            GptHeader primary = GptHeader.read(source, 1);
            List<String> remarks = new ArrayList<>(hybrid());
            backupOf(primary, remarks);
            return table(primary, remarks);
        } catch (Unsound damage) {
            return fromBackup(damage);
        }
    }

    private PartitionTable fromBackup(Unsound damage) throws IOException {
        try {
            GptHeader backup = GptHeader.read(source, lastLba);
            List<String> remarks = new ArrayList<>(hybrid());
            remarks.add("The primary GPT cannot be used (" + damage.fault().sentence()
                + "). Its backup at the end of the disk is sound and was read instead.");
            return table(backup, remarks);
        } catch (Unsound both) {
            return new PartitionTable.Damaged("gpt", damage.fault());
        }
    }

    /** The backup is compared, not needed: a restore onto a larger disk leaves it where the smaller disk ended. */
    private void backupOf(GptHeader primary, List<String> remarks) throws IOException {
        long at = primary.alternateLba();
        if (at < 2 || at > lastLba) {
            remarks.add("The backup GPT is said to lie in sector " + Long.toUnsignedString(at)
                + ", past the end of the disk. Only the primary protects this table.");
            return;
        }
        if (at != lastLba) {
            remarks.add("The backup GPT lies in sector " + at + ", not in the last one, " + lastLba
                + ": the disk is larger than the one the table was made for. \"sgdisk -e\" moves it to the end.");
        }
        try {
            GptHeader backup = GptHeader.read(source, at);
            if (backup.entriesCrc() != primary.entriesCrc() || !backup.diskGuid().equals(primary.diskGuid())) {
                remarks.add("The two copies of the GPT differ; the primary was read.");
            }
        } catch (Unsound damaged) {
            remarks.add("The backup GPT cannot be used: " + damaged.fault().sentence());
        }
    }

    /** A hybrid MBR repeats some GPT partitions for firmware that reads no GPT (common practice, no source). */
    private List<String> hybrid() {
        List<String> repeated = new ArrayList<>();
        for (MbrRecord record : MbrRecord.all(firstSector)) {
            if (record.type() != 0 && record.type() != MbrRecord.PROTECTIVE && record.sectors() > 0) {
                repeated.add(PartitionType.ofMbr(record.type()).name() + " at sector " + record.firstSector());
            }
        }
        return repeated.isEmpty() ? List.of()
            : List.of("The MBR is a hybrid: besides protecting the GPT it lists " + String.join(", ", repeated)
                + ". Both tables are kept.");
    }

    private static PartitionTable table(GptHeader header, List<String> remarks) {
        return new PartitionTable.Gpt(header.diskGuid(), header.firstUsableLba(), header.lastUsableLba(), header.entryCount(),
            header.partitions(), remarks);
    }
}
