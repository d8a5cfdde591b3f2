package app.granary.core.inventory;

import java.util.Set;

/**
 * A computer has another name now. Whatever is kept under a name follows it within the same transaction; what was written down as it
 * happened, the journal, does not.
 *
 * @param diskIds its disks, removed ones too
 */
public record ComputerRenamed(String before, String after, Set<String> diskIds) {
}
