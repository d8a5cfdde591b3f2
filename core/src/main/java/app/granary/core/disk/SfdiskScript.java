package app.granary.core.disk;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.OptionalLong;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Reads what {@code sfdisk --dump} prints (util-linux, sfdisk(8), "script headers" and "named fields"). The inverse of {@link SfdiskDump}.
 *
 * @param table       a GPT or MBR
 * @param sectorBytes the sector it counts in
 */
public record SfdiskScript(PartitionTable table, int sectorBytes) {
    private static final int MAX_LINES = 10_000;
    private static final Pattern HEADER = Pattern.compile("([a-z-]+):\\s*(.*)");
    private static final Pattern LINE = Pattern.compile("(\\S*?)(\\d+)\\s*:\\s*(.*)");
    private static final Pattern FIELD = Pattern.compile("\\s*([A-Za-z]+)(?:\\s*=\\s*(\"(?:[^\"\\\\]|\\\\.)*\"|[^,\\s\"]*))?\\s*(?:,|$)");

    /**
     * @throws FaultException naming the line that cannot be read
     */
    public static SfdiskScript read(String text) throws FaultException {
        Map<String, String> headers = new HashMap<>();
        List<Map<String, String>> rows = new ArrayList<>();
        List<Integer> lines = new ArrayList<>();
        int number = 0;
        for (String line : text.split("\n", MAX_LINES)) {
            number++;
            if (line.isBlank() || line.startsWith("#")) {
                continue;
            }
            Matcher row = LINE.matcher(line.strip());
            Matcher header = HEADER.matcher(line.strip());
            if (header.matches()) {
                headers.put(header.group(1), header.group(2));
            } else if (row.matches()) {
                rows.add(fields(row.group(2), row.group(3), number));
                lines.add(number);
            } else {
                throw refused(number, "\"" + shortened(line) + "\" is neither a header nor a partition");
            }
        }
        int sector = (int) whole(headers.getOrDefault("sector-size", "512"), 0, "sector-size");
        if (sector != 512 && sector != 4096) {
            throw refused(0, "sectors of " + sector + " bytes are not supported");
        }
        boolean gpt = "gpt".equals(headers.get("label"));
        if (!gpt && !"dos".equals(headers.get("label"))) {
            throw refused(0, "its label is \"" + headers.getOrDefault("label", "") + "\"; Granary reads gpt and dos");
        }
        List<Partition> partitions = new ArrayList<>();
        for (int i = 0; i < rows.size(); i++) {
            partitions.add(partition(rows.get(i), gpt, sector, lines.get(i)));
        }
        return new SfdiskScript(table(headers, gpt, partitions), sector);
    }

    private static PartitionTable table(Map<String, String> headers, boolean gpt, List<Partition> partitions) throws FaultException {
        String id = headers.getOrDefault("label-id", gpt ? "" : "0x0");
        if (!gpt) {
            return new PartitionTable.Mbr(hex(id), partitions);
        }
        long first = whole(headers.getOrDefault("first-lba", "34"), 0, "first-lba");
        long last = whole(headers.getOrDefault("last-lba", "0"), 0, "last-lba");
        long entries = whole(headers.getOrDefault("table-length", "128"), 0, "table-length");
        return new PartitionTable.Gpt(id, first, last, (int) Math.min(GptHeader.MAX_ENTRIES, entries), partitions, List.of());
    }

    private static Partition partition(Map<String, String> row, boolean gpt, int sector, int line) throws FaultException {
        int number = (int) Math.min(Integer.MAX_VALUE, whole(row.get("#"), line, "the partition's number"));
        long start = times(whole(row.getOrDefault("start", ""), line, "start"), sector, line);
        long size = times(whole(row.getOrDefault("size", ""), line, "size"), sector, line);
        if (size == 0 || start > Long.MAX_VALUE - size) {
            throw refused(line, "a partition of " + size + " bytes at byte " + start + " cannot be");
        }
        String type = row.getOrDefault("type", "");
        if (gpt) {
            return new Partition(number, start, size, PartitionType.of(type), unescaped(row.getOrDefault("name", "")),
                row.getOrDefault("uuid", "").toUpperCase(Locale.ROOT),
                attributes(row.getOrDefault("attrs", ""), line), false);
        }
        int code = (int) (hex(type) & 0xFF);
        return new Partition(number, start, size, PartitionType.ofMbr(code), "", "", row.containsKey("bootable") ? 0x80 : 0,
            PartitionType.isExtended(code));
    }

    private static Map<String, String> fields(String number, String text, int line) throws FaultException {
        Map<String, String> out = new HashMap<>(Map.of("#", number));
        Matcher field = FIELD.matcher(text);
        int at = 0;
        while (at < text.length()) {
            if (!field.find(at) || field.start() != at || field.end() == at) {
                throw refused(line, "\"" + shortened(text.substring(at)) + "\" is no field");
            }
            String value = field.group(2) == null ? "" : field.group(2);
            out.put(field.group(1).toLowerCase(Locale.ROOT), value.startsWith("\"") ? value.substring(1, value.length() - 1) : value);
            at = field.end();
        }
        return out;
    }

    /** The words sfdisk uses for GPT attribute bits, as {@link SfdiskDump} writes them. */
    private static long attributes(String words, int line) throws FaultException {
        long bits = 0;
        for (String word : words.split("[ ,]+")) {
            switch (word) {
                case "" -> {
                }
                case "RequiredPartition" -> bits |= 1;
                case "NoBlockIOProtocol" -> bits |= 2;
                case "LegacyBIOSBootable" -> bits |= 4;
                default -> {
                    long bit = whole(word.replace("GUID:", ""), line, "an attribute");
                    if (bit > 63) {
                        throw refused(line, "there is no attribute bit " + bit);
                    }
                    bits |= 1L << bit;
                }
            }
        }
        return bits;
    }

    private static String unescaped(String name) {
        Matcher escape = Pattern.compile("\\\\x([0-9a-fA-F]{2})").matcher(name);
        return escape.replaceAll(found -> Matcher.quoteReplacement(String.valueOf((char) Integer.parseInt(found.group(1), 16))));
    }

    private static long times(long sectors, int sector, int line) throws FaultException {
        if (sectors > Long.MAX_VALUE / sector) {
            throw refused(line, sectors + " sectors are more than any disk has");
        }
        return sectors * sector;
    }

    private static OptionalLong digits(String text, int radix) {
        try {
            return OptionalLong.of(Long.parseLong(text, radix));
        } catch (NumberFormatException not) {
            return OptionalLong.empty();
        }
    }

    private static long whole(String text, int line, String what) throws FaultException {
        OptionalLong value = digits(text.strip(), 10);
        if (value.isEmpty() || value.getAsLong() < 0) {
            throw refused(line, what + " must be a whole number, not \"" + shortened(text) + "\"");
        }
        return value.getAsLong();
    }

    private static long hex(String text) throws FaultException {
        OptionalLong value = digits(text.strip().replaceFirst("^0x", ""), 16);
        if (value.isEmpty() || value.getAsLong() < 0) {
            throw refused(0, "\"" + shortened(text) + "\" is no hexadecimal number");
        }
        return value.getAsLong();
    }

    private static String shortened(String text) {
        return text.length() <= 60 ? text : text.substring(0, 60) + "...";
    }

    private static FaultException refused(int line, String why) {
        return Fault
            .of(Fault.Kind.BAD_CHOICE, "", "The partition table script cannot be read" + (line > 0 ? ", line " + line : "") + ": " + why
                + ". It should be what \"sfdisk --dump DISK\" prints.")
            .asException();
    }
}
