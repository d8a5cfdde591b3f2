package app.granary.engine.inventory;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.inventory.ComputerReport;
import app.granary.core.inventory.KnownDisk;
import java.io.IOException;
import java.util.List;
import java.util.Optional;

/**
 * A report read, whichever of the formats it came in.
 *
 * @param format    {@code "lsblk"}, {@code "sfdisk"}, {@code "granary"} or {@code "csv"}
 * @param computers what it reports
 * @param notes     sentences on what was passed over, with the line
 */
public record InventoryText(String format, List<ComputerReport> computers, List<String> notes) {
    /** Longest text taken, in characters: five hundred computers are about a megabyte. */
    public static final int MOST_CHARACTERS = 8 << 20;

    public InventoryText {
        computers = List.copyOf(computers);
        notes = List.copyOf(notes);
    }

    /**
     * @param text     the report
     * @param computer the computer it is of, for formats that do not say; may be empty
     * @param disk     the known disk it is of, for {@code sfdisk}, which tells neither serial nor length
     * @throws FaultException naming the line that cannot be read and what to do
     */
    public static InventoryText read(String text, String computer, Optional<KnownDisk> disk) throws IOException {
        if (text.length() > MOST_CHARACTERS) {
            throw refused(0, "it is longer than " + (MOST_CHARACTERS >> 20)
                + " MiB, far more than any office's computers. Check that it is an inventory");
        }
        String begin = text.stripLeading();
        if (begin.isEmpty()) {
            throw refused(0, "it is empty");
        }
        if (!begin.startsWith("{")) {
            return CsvInventory.read(text);
        }
        LinedJson json = LinedJson.parse(text);
        if (json.has("blockdevices")) {
            return LsblkInventory.read(json, computer);
        }
        if (json.has("partitiontable")) {
            return SfdiskInventory.read(json, disk);
        }
        if (json.text("format").equals("granary-inventory")) {
            return GranaryInventory.read(json);
        }
        throw refused(json.line(),
            "it is JSON, but neither what lsblk or sfdisk print nor Granary's own; \"format\" should be \"granary-inventory\"");
    }

    /** @param line line of the report, from 1; 0 where there is none */
    static FaultException refused(int line, String why) {
        return Fault.of(Fault.Kind.BAD_CHOICE, "",
            "The report cannot be read" + (line > 0 ? ", line " + line : "") + ": " + why + ". Nothing was changed.").asException();
    }
}
