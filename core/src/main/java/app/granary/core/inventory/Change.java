package app.granary.core.inventory;

import java.util.Locale;

/**
 * One difference between what is known and what a report says.
 *
 * @param computer the computer it is about
 * @param disk     the disk's label, or an empty string when it is about the computer
 * @param sentence what is different, before against after
 * @param line     line of the report, from 1; 0 where there is none
 */
public record Change(Kind kind, String computer, String disk, String sentence, int line) {
    /** The sorts of change. */
    public enum Kind {
        NEW_COMPUTER, NEW_DISK, DISK_SWAPPED, DISK_MOVED, DISK_GONE, PARTITION_NEW, PARTITION_GONE, PARTITION_RESIZED, FILE_SYSTEM_CHANGED,
        USED_CHANGED, FACT_CHANGED;

        /** The word on the wire. */
        public String word() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }

        /** Whether a person should look twice before accepting it: what earlier images hold may no longer be what is there. */
        public boolean grave() {
            return this == DISK_SWAPPED || this == DISK_MOVED || this == DISK_GONE || this == PARTITION_GONE || this == PARTITION_RESIZED
                || this == FILE_SYSTEM_CHANGED;
        }
    }
}
