package app.granary.core.disk;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Writes a table as the script that {@code sfdisk DISK < dump} accepts (util-linux, sfdisk(8), "script headers"). */
public final class SfdiskDump {
    private static final int USUAL_ENTRIES = 128;

    private SfdiskDump() {
    }

    /**
     * @param table       a GPT or MBR; for a disk without a table the text is empty
     * @param sectorBytes the sector the table counts in
     */
    public static String write(PartitionTable table, int sectorBytes) {
        if (table instanceof PartitionTable.Gpt gpt) {
            List<String> more = new ArrayList<>(List.of("first-lba: " + gpt.firstUsableLba(), "last-lba: " + gpt.lastUsableLba()));
            if (gpt.entryCount() != USUAL_ENTRIES) {
                more.add(0, "table-length: " + gpt.entryCount());
            }
            return script("gpt", gpt.diskGuid(), more, gpt.partitions(), sectorBytes);
        }
        if (table instanceof PartitionTable.Mbr mbr) {
            return script("dos", String.format(Locale.ROOT, "0x%08x", mbr.diskSignature()), List.of(), mbr.partitions(), sectorBytes);
        }
        return "";
    }

    private static String script(String label, String id, List<String> more, List<Partition> partitions, int sectorBytes) {
        List<String> lines = new ArrayList<>(List.of("label: " + label, "label-id: " + id, "device: disk", "unit: sectors"));
        lines.addAll(more);
        lines.add("sector-size: " + sectorBytes);
        lines.add("");
        for (Partition partition : partitions) {
            StringBuilder line = new StringBuilder(
                "disk" + partition.number() + " : start=" + partition.startBytes() / sectorBytes + ", size="
                    + partition.sizeBytes() / sectorBytes + ", type=" + partition.type().code().toLowerCase(Locale.ROOT));
            if (label.equals("gpt")) {
                line.append(", uuid=").append(partition.uuid());
                if (!partition.name().isEmpty()) {
                    line.append(", name=\"").append(escaped(partition.name())).append('"');
                }
                if (partition.attributes() != 0) {
                    line.append(", attrs=\"").append(attributes(partition.attributes())).append('"');
                }
            } else if (partition.attributes() == 0x80) {
                line.append(", bootable");
            }
            lines.add(line.toString());
        }
        return String.join("\n", lines) + "\n";
    }

    private static String escaped(String name) {
        StringBuilder out = new StringBuilder();
        for (char c : name.toCharArray()) {
            // sfdisk writes what it cannot print, quotes and backslashes as \xHH, and reads that back
            out.append(c < 32 || c == 127 || c == '"' || c == '\\' ? String.format(Locale.ROOT, "\\x%02x", (int) c) : String.valueOf(c));
        }
        return out.toString();
    }

    private static String attributes(long bits) {
        List<String> words = new ArrayList<>();
        for (int bit = 0; bit < 64; bit++) {
            if ((bits >>> bit & 1) == 1) {
                words
                    .add(bit == 0 ? "RequiredPartition" : bit == 1 ? "NoBlockIOProtocol" : bit == 2 ? "LegacyBIOSBootable" : "GUID:" + bit);
            }
        }
        return String.join(" ", words);
    }
}
