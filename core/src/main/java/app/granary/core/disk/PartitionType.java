package app.granary.core.disk;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;

/**
 * A partition's type as the table gives it. Unknown codes are kept and shown as they are.
 *
 * @param code   a GUID in upper case (GPT) or two hexadecimal digits (MBR)
 * @param name   the trade's word for it, or the code when it has none here
 * @param hidden whether the user of the computer never sees it: firmware, reserved, recovery
 */
public record PartitionType(String code, String name, boolean hidden) {
    private static final Map<String, PartitionType> KNOWN = load();

    private static Map<String, PartitionType> load() {
        Map<String, PartitionType> known = new LinkedHashMap<>();
        try (BufferedReader in = new BufferedReader(
            new InputStreamReader(PartitionType.class.getResourceAsStream("partition-types.csv"), StandardCharsets.UTF_8))) {
            in.lines().filter(line -> !line.startsWith("#")).map(line -> line.split(",", 3))
                .forEach(row -> known.put(row[0], new PartitionType(row[0], row[2], row[1].equals("yes"))));
            return known;
        } catch (IOException impossible) {
            throw new IllegalStateException("the list of partition types ships with Granary", impossible);
        }
    }

    /** All types Granary has a word for. */
    public static Collection<PartitionType> known() {
        return KNOWN.values();
    }

    /** @param code a GUID or an MBR type, in either case */
    public static PartitionType of(String code) {
        String upper = code.toUpperCase(Locale.ROOT);
        return KNOWN.getOrDefault(upper, new PartitionType(upper, upper, false));
    }

    static PartitionType ofMbr(int code) {
        return of(String.format(Locale.ROOT, "%02X", code));
    }

    /** An MBR entry that only holds the chain of logical partitions. */
    static boolean isExtended(int mbrCode) {
        return mbrCode == 0x05 || mbrCode == 0x0F || mbrCode == 0x85;
    }
}
