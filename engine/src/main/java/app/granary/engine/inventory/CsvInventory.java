package app.granary.engine.inventory;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.inventory.ComputerReport;
import app.granary.core.inventory.DiskReport;
import app.granary.core.inventory.Firmware;
import app.granary.core.inventory.PartitionReport;
import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.apache.commons.csv.CSVException;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/**
 * CSV (RFC 4180) with a header line, a row per partition, or per disk without partitions. Columns: {@code computer} and {@code size_bytes}
 * are needed;
 * {@code maker, model, firmware, operating_system, disk_model, serial, bus, scheme, partition, partition_size_bytes, partition_name,
 * file_system, used_bytes} may be there.
 */
final class CsvInventory {
    private static final int MOST_ROWS = 200_000;

    private CsvInventory() {
    }

    static InventoryText read(String text) throws IOException {
        CSVFormat format = CSVFormat.RFC4180.builder().setHeader().setSkipHeaderRecord(true).setTrim(true).setIgnoreEmptyLines(true)
            .setIgnoreHeaderCase(true).get();
        try (CSVParser csv = CSVParser.parse(new StringReader(text), format)) {
            if (!csv.getHeaderMap().containsKey("computer") || !csv.getHeaderMap().containsKey("size_bytes")) {
                throw InventoryText.refused(1, "it is neither JSON nor CSV whose first line names the columns computer and size_bytes");
            }
            Map<String, Map<String, List<CSVRecord>>> rows = new LinkedHashMap<>();
            Map<CSVRecord, Integer> lines = new java.util.IdentityHashMap<>();
            for (CSVRecord row : csv) {
                int line = (int) csv.getCurrentLineNumber();
                if (row.getRecordNumber() > MOST_ROWS) {
                    throw InventoryText.refused(line, "it has more than " + MOST_ROWS + " rows");
                }
                if (cell(row, "computer").isEmpty()) {
                    throw InventoryText.refused(line, "the computer has no name");
                }
                lines.put(row, line);
                String disk = cell(row, "disk_model") + "\0" + cell(row, "serial") + "\0" + cell(row, "size_bytes");
                rows.computeIfAbsent(cell(row, "computer"), none -> new LinkedHashMap<>()).computeIfAbsent(disk, none -> new ArrayList<>())
                    .add(row);
            }
            List<ComputerReport> computers = new ArrayList<>();
            for (Map.Entry<String, Map<String, List<CSVRecord>>> each : rows.entrySet()) {
                computers.add(computer(each.getKey(), each.getValue(), lines));
            }
            return new InventoryText("csv", computers, List.of());
        } catch (CSVException | UncheckedIOException | IllegalArgumentException broken) {
            throw InventoryText.refused(0, "it is not CSV as RFC 4180 describes it (" + broken.getMessage() + ")");
        }
    }

    private static ComputerReport computer(String name, Map<String, List<CSVRecord>> byDisk, Map<CSVRecord, Integer> lines)
        throws IOException {
        List<DiskReport> disks = new ArrayList<>();
        for (List<CSVRecord> rows : byDisk.values()) {
            CSVRecord first = rows.get(0);
            List<PartitionReport> partitions = new ArrayList<>();
            for (CSVRecord row : rows) {
                OptionalLong number = whole(row, "partition", lines);
                if (number.isPresent()) {
                    partitions.add(new PartitionReport((int) Math.min(4096, number.getAsLong()), 0,
                        needed(row, "partition_size_bytes", lines), "", cell(row, "partition_name"),
                        cell(row, "file_system"), whole(row, "used_bytes", lines)));
                }
            }
            disks.add(new DiskReport(new DiskIdentity(cell(first, "disk_model"), cell(first, "serial"), needed(first, "size_bytes", lines)),
                "", cell(first, "bus"), 512,
                cell(first, "scheme"), partitions, lines.get(first)));
        }
        CSVRecord first = byDisk.values().iterator().next().get(0);
        return new ComputerReport(name, cell(first, "maker"), cell(first, "model"), Firmware.parse(cell(first, "firmware")),
            Optional.empty(), cell(first, "operating_system"),
            disks, true, lines.get(first));
    }

    private static String cell(CSVRecord row, String column) {
        return row.isSet(column) ? row.get(column) : "";
    }

    private static long needed(CSVRecord row, String column, Map<CSVRecord, Integer> lines) throws IOException {
        OptionalLong value = whole(row, column, lines);
        if (value.orElse(0) == 0) {
            throw InventoryText.refused(lines.get(row), column + " is needed, more than 0");
        }
        return value.getAsLong();
    }

    private static OptionalLong whole(CSVRecord row, String column, Map<CSVRecord, Integer> lines) throws IOException {
        String text = cell(row, column);
        if (text.isEmpty()) {
            return OptionalLong.empty();
        }
        if (!text.matches("\\d{1,18}")) {
            throw InventoryText.refused(lines.get(row),
                column + " should be a whole number of 0 or more, not \"" + text.substring(0, Math.min(40, text.length())) + "\"");
        }
        return OptionalLong.of(Long.parseLong(text));
    }
}
