package app.granary.core.disk;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import java.util.List;

/** Turns a partition table into the bytes that carry it, for a disk of a given length. The inverse of {@link PartitionTables#read}. */
public final class TableWriter {
    /** The part of the first sector that is the table's; what lies before it is boot code and stays as given. */
    public static final int BOOT_CODE_BYTES = 440;

    private TableWriter() {
    }

    /**
     * @param table       a GPT or MBR
     * @param diskBytes   length of the disk it is for: a GPT's backup goes to its real end
     * @param sectorBytes logical sector, 512 or 4096
     * @param firstSector the first sector whose boot code is kept; its first {@value #BOOT_CODE_BYTES} bytes count, fewer mean none
     * @return the stretches to write, in rising order, none overlapping another or a partition
     * @throws FaultException when the table cannot be written there: every reason with its figures
     */
    public static List<TableSectors> write(PartitionTable table, long diskBytes, int sectorBytes, byte[] firstSector)
        throws FaultException {
        if (table instanceof PartitionTable.Gpt gpt) {
            return new GptWriter(gpt, diskBytes, sectorBytes, firstSector).write();
        }
        if (table instanceof PartitionTable.Mbr mbr) {
            return new MbrWriter(mbr, diskBytes, sectorBytes, firstSector).write();
        }
        throw refused("there is no sound table to write");
    }

    static FaultException refused(String why) {
        return Fault.of(Fault.Kind.BAD_CHOICE, "", "The partition table cannot be written: " + why + ". Nothing was changed.")
            .asException();
    }
}
