package app.granary.core.disk;

import app.granary.core.fault.Fault;

/** Leaves a table's reader as soon as the table contradicts itself; carries the fault that goes into {@link PartitionTable.Damaged}. */
final class Unsound extends Exception {
    private static final long serialVersionUID = 1L;
    private final transient Fault fault;

    Unsound(Fault fault) {
        super(fault.sentence(), null, false, false);
        this.fault = fault;
    }

    /**
     * @param what the clause of what is wrong
     */
    static Unsound at(BlockSource source, long offset, String expected, String found, String what) {
        return new Unsound(
            Fault.damaged(source.name(), offset, expected, found, source.name() + ": " + what + " (byte " + offset + ", expected "
                + expected + ", found " + found + "). Repair the table with a partition editor, or capture every block."));
    }

    Fault fault() {
        return fault;
    }
}
